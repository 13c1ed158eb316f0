import { useEffect, useRef } from "react";

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement && target.closest("input, textarea, select, [contenteditable], .ant-select") !== null
  );
}

const DIGIT = /^Digit(\d)$/;

/** Runs on a key pressed anywhere but in a field; no key steals typing. A digit with Alt is none of what is typed. */
export function useKey(keys: string, run: (key: string) => void): void {
  const latest = useRef(run);
  useEffect(() => {
    latest.current = run;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const withAlt = event.altKey ? DIGIT.exec(event.code)?.[1] : undefined;
      if (withAlt !== undefined && keys.includes(withAlt)) {
        event.preventDefault();
        letGo();
        latest.current(withAlt);
        return;
      }
      const plain = !event.ctrlKey && !event.metaKey && !event.altKey;
      if (plain && !isTyping(event.target) && keys.includes(event.key.toLowerCase())) {
        event.preventDefault();
        latest.current(event.key.toLowerCase());
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [keys]);
}

/** A key pressed by touch. */
export function pressKey(key: string): void {
  window.dispatchEvent(new KeyboardEvent("keydown", { key }));
}

/** Lets go of the field in hand, so that the keys work again. */
export function letGo(): void {
  if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
}
