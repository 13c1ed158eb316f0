import type { TestGroup } from "../../shared/api/types";
import { Mark } from "../../shared/marks/Mark";
import { inColumns } from "./columns";
import { say } from "../../words/say";
import "./TestMatrix.css";

interface MatrixProps {
  /** Groups with the same tests. */
  groups: TestGroup[];
  isOpen: (title: string) => boolean;
  toggle: (title: string) => void;
  /** Take the reading of a test. */
  take: (key: string) => void;
}

/** Things of one kind and their tests as one picture: a row for each thing, a column for each test. */
export function TestMatrix({ groups, isOpen, toggle, take }: MatrixProps) {
  return (
    <table className="matrix">
      <thead>
        <tr>
          <td />
          {inColumns(groups).map((column) => (
            <th key={column} scope="col">
              <span>{column}</span>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {groups.map((group) => (
          <tr key={group.title} className={`matrix-${group.verdict}`}>
            <th scope="row">
              <button
                type="button"
                className="matrix-row"
                aria-expanded={isOpen(group.title)}
                onClick={() => toggle(group.title)}
              >
                <b>{group.title}</b>
                <span>{say("prove.of", { clear: group.clear, testsCount: group.tests.length })}</span>
              </button>
            </th>
            {group.tests.map((test) => (
              <td key={test.key}>
                <button type="button" className="matrix-cell" title={test.title} onClick={() => take(test.key)}>
                  <span className="unseen">{test.title}, </span>
                  <Mark verdict={test.verdict} word={false} />
                  {test.read_text !== "" && <span className="matrix-read">{test.read_text}</span>}
                </button>
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
