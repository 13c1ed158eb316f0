import type { LoadInLine } from "../../shared/api/types";
import { say } from "../../words/say";
import "./GoodsPile.css";

/** What is not here yet, as piles that shrink: one for each group, a box for each line of the sheet. */
export function GoodsPile({ groups, lines }: { groups: string[]; lines: LoadInLine[] }) {
  const missing = groups
    .map((group) => {
      const own = lines.filter((line) => line.group === group);
      return { group, of: own.length, boxes: own.filter((line) => line.judgement.verdict !== "clear") };
    })
    .filter(({ boxes }) => boxes.length > 0);
  if (missing.length === 0) return null;
  return (
    <nav className="piles" aria-label={say("arrive.what_is_not_here_yet")}>
      {missing.map(({ group, of, boxes }) => (
        <a key={group} href={`#goods-${group}`} className="pile">
          <span className="pile-boxes" aria-hidden="true">
            {boxes.map((line) => (
              <i key={line.id} className={`pile-box pile-${line.judgement.verdict}`} title={line.what} />
            ))}
          </span>
          <b>{group}</b>
          <span className="pile-count">{say("arrive.of_to_come", { boxesCount: boxes.length, of })}</span>
        </a>
      ))}
    </nav>
  );
}
