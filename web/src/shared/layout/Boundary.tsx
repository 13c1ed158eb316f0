import { Button } from "antd";
import { Component, type ReactNode } from "react";
import { say } from "../../words/say";
import "./Boundary.css";

interface BoundaryProps {
  /** What failed, as it is named to the user: "The rail", "This stage". */
  what: string;
  /** When this changes, what failed is tried again by itself. */
  resetOn?: unknown;
  children: ReactNode;
}

interface BoundaryState {
  error: Error | null;
  resetOn: unknown;
}

/** Holds a fault where it is: says what failed, that nothing kept is lost, and how to go on. */
export class Boundary extends Component<BoundaryProps, BoundaryState> {
  override state: BoundaryState = { error: null, resetOn: this.props.resetOn };

  static getDerivedStateFromError(error: unknown): Partial<BoundaryState> {
    return { error: error instanceof Error ? error : new Error(String(error)) };
  }

  static getDerivedStateFromProps(props: BoundaryProps, state: BoundaryState): Partial<BoundaryState> | null {
    return Object.is(props.resetOn, state.resetOn) ? null : { error: null, resetOn: props.resetOn };
  }

  override render(): ReactNode {
    const { error } = this.state;
    if (error === null) return this.props.children;
    return (
      <section className="failed" role="alert">
        <h2>{say("shared.cannot_be_shown", { what: this.props.what })}</h2>
        <p>{say("shared.nothing_that_was_kept_is_lost")}</p>
        <p className="source">{say("shared.what_went_wrong", { message: error.message })}</p>
        <div className="failed-do">
          <Button type="primary" onClick={() => this.setState({ error: null })}>
            {say("shared.show_it_again")}
          </Button>
          <Button onClick={() => window.location.reload()}>{say("shared.load_the_page_anew")}</Button>
          <a className="quiet" href="/">
            {say("common.to_the_jobs")}
          </a>
        </div>
      </section>
    );
  }
}
