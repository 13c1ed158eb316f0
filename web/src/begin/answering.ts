import type { Answers, Beginning, Question } from "../shared/api/types";

export interface AskProps {
  question: Question;
  asked: Beginning;
  answers: Answers;
  put: (change: Change) => void;
  skip: () => void;
}

/** What changes answers: made on the newest ones, for another may have been given meanwhile. */
export type Change = (answers: Answers) => Answers;

/** Some of what was typed, changed. */
export const typing =
  (typed: Partial<Answers["typed"]>): Change =>
  (answers) => ({ ...answers, typed: { ...answers.typed, ...typed } });
