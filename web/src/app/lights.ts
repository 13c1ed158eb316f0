import { useEffect, useState } from "react";
import { useKey } from "../shared/lib/useKey";

export type Light = "paper" | "glare" | "loft";
const KEPT_AS = "light";
const NEXT: Record<Light, Light> = { paper: "glare", glare: "loft", loft: "paper" };

const known = (kept: string | null): Light => (kept !== null && kept in NEXT ? (kept as Light) : "paper");

/** The light that the screen is read in: paper, glare for the sun, loft for the dark. L changes it. */
export function useLight(): Light {
  const [light, setLight] = useState<Light>(() => known(localStorage.getItem(KEPT_AS)));
  useEffect(() => {
    document.documentElement.dataset["light"] = light;
    localStorage.setItem(KEPT_AS, light);
  }, [light]);
  useEffect(() => {
    // Paper is read in its own light, whatever the screen is.
    const onPaper = () => (document.documentElement.dataset["light"] = "glare");
    const back = () => (document.documentElement.dataset["light"] = light);
    window.addEventListener("beforeprint", onPaper);
    window.addEventListener("afterprint", back);
    return () => {
      window.removeEventListener("beforeprint", onPaper);
      window.removeEventListener("afterprint", back);
    };
  }, [light]);
  useKey("p", () => window.print());
  useKey("l", () => setLight((now) => NEXT[now]));
  return light;
}
