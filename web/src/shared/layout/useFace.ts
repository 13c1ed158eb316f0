import { useCallback } from "react";
import { useSearchParams } from "react-router";

/** The face of a stage that is shown: by the address, so that a link leads to it and a reload stays on it. */
export function useFace<T extends string>(faces: readonly T[], first: T): [T, (face: T) => void] {
  const [asked, ask] = useSearchParams();
  const face = faces.find((one) => one === asked.get("face")) ?? first;
  const show = useCallback(
    (wanted: T) => {
      ask(
        (before) => {
          before.set("face", wanted);
          before.delete("read");
          before.delete("field");
          return before;
        },
        { replace: true },
      );
    },
    [ask],
  );
  return [face, show];
}
