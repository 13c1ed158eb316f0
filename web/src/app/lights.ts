import { useEffect, useState } from "react";
import { useKey } from "../shared/lib/useKey";

export type Light = "paper" | "glare";
const KEPT_AS = "light";

/** The light that the screen is read in: paper, or glare for the sun. L changes it. */
export function useLight(): Light {
  const [light, setLight] = useState<Light>(() => (localStorage.getItem(KEPT_AS) === "glare" ? "glare" : "paper"));
  useEffect(() => {
    document.documentElement.dataset["light"] = light;
    localStorage.setItem(KEPT_AS, light);
  }, [light]);
  useKey("l", () => setLight((now) => (now === "paper" ? "glare" : "paper")));
  return light;
}
