import { useEffect } from "react";
import { useLocation, useSearchParams } from "react-router";
import { say } from "../../words/say";
import { LED_FIELDS } from "./ledFields";

/** A stage, its sheets and its file of words may still be on their way. */
const PATIENCE_MS = 4_000;
const CONTROL = "input, textarea, select, button, summary, [role='radio'], [tabindex='0']";
/** Of the stage and its rail, never of the head with its arc. Fields go before what only opens or does something. */
const NAMED = [":is(main, .rail) :is(label, [aria-label])", ":is(main, .rail) :is(button, summary)"];

/** What a control is called: aloud, else by what is written beside it or on it. */
const nameOf = (one: Element) =>
  one.getAttribute("aria-label") ?? one.querySelector(".entry-label")?.textContent ?? one.textContent;

/** The first control of the stage that is called so, or that stands in what is. */
function controlNamed(name: string): HTMLElement | null {
  for (const one of NAMED.flatMap((kind) => [...document.querySelectorAll<HTMLElement>(kind)])) {
    if (nameOf(one) !== name) continue;
    const control = one.matches(CONTROL) ? one : one.querySelector<HTMLElement>(CONTROL);
    if (control !== null) return control;
  }
  return null;
}

/** Who followed a verdict to what it waits for stands in its field, as soon as that is drawn. */
export function useLedField(): void {
  const { key } = useLocation();
  const [asked] = useSearchParams();
  const word = LED_FIELDS[asked.get("field") ?? ""];
  useEffect(() => {
    if (word === undefined) return;
    const until = performance.now() + PATIENCE_MS;
    let frame = requestAnimationFrame(function look() {
      const found = controlNamed(say(word));
      if (found !== null) {
        found.scrollIntoView({ block: "center" });
        found.focus();
      } else if (performance.now() < until) frame = requestAnimationFrame(look);
    });
    return () => cancelAnimationFrame(frame);
  }, [word, key]);
}
