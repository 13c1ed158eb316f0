import { useEffect, useRef } from "react";
import { say } from "../../words/say";

/** What was stopped by whoever had begun it: no fault, and no sign of a missing signal. */
export class Stopped extends Error {
  constructor() {
    super(say("shared.stopped_what_the_server_had_begun"));
  }
}

/** Work that takes long, one at a time: each is begun with its signal, and ends when it is stopped or left. */
export function useStop() {
  const running = useRef<AbortController | null>(null);
  useEffect(() => () => running.current?.abort(), []);
  return {
    begun: () => (running.current = new AbortController()).signal,
    stop: () => running.current?.abort(),
  };
}
