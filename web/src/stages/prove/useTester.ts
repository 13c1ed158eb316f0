import { useState } from "react";

const keyOf = (jobId: string) => `tester-${jobId}`;

/** The tester in hand: remembered on this device, for this job. */
export function useTester(jobId: string, known: readonly string[]): [string, (name: string) => void] {
  const [held, setHeld] = useState(() => localStorage.getItem(keyOf(jobId)) ?? "");
  const tester = known.includes(held) ? held : (known[0] ?? "");
  const choose = (name: string) => {
    localStorage.setItem(keyOf(jobId), name);
    setHeld(name);
  };
  return [tester, choose];
}
