import { useShelf } from "../shared/api/useShelf";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { typing, type AskProps } from "./answering";
import { say } from "../words/say";

/** Which rules count: the usual ones of the country first. */
export function AskRules({ question, asked, put }: AskProps) {
  const shelf = useShelf();
  const packs = shelf.data?.packs ?? [];
  const usualFirst = [...packs].sort(
    (one, other) => Number(other.id === asked.rule_pack) - Number(one.id === asked.rule_pack),
  );
  return (
    <div className="choices" role="group" aria-label={question.asks}>
      {shelf.isPending && <p className="ask-none">{say("begin.opening_the_shelf")}</p>}
      <ProblemNote error={shelf.error} />
      {usualFirst.map((one) => (
        <button
          key={one.id}
          type="button"
          className="choice"
          onClick={() => put(typing({ rule_pack: one.id, strung: "" }))}
        >
          <b>
            {one.label}
            {one.id === asked.rule_pack && say("begin.usual_there")}
          </b>
          <small>{one.detail}</small>
        </button>
      ))}
    </div>
  );
}
