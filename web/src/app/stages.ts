import { lazy, type ComponentType } from "react";
import type { StageProps } from "../shared/layout/StageFrame";

export interface StageEntry {
  number: number;
  slug: string;
  component: ComponentType<StageProps>;
}

/** The stages that are built, by number; the arc shows the others as not built yet. */
export const BUILT_STAGES: StageEntry[] = [
  { number: 1, slug: "arrive", component: lazy(() => import("../stages/arrive/ArriveStage")) },
  { number: 2, slug: "hang", component: lazy(() => import("../stages/hang/HangStage")) },
  { number: 3, slug: "earth", component: lazy(() => import("../stages/earth/EarthStage")) },
  { number: 4, slug: "string", component: lazy(() => import("../stages/string/StringStage")) },
  { number: 5, slug: "feed", component: lazy(() => import("../stages/feed/FeedStage")) },
  { number: 7, slug: "prove", component: lazy(() => import("../stages/prove/ProveStage")) },
  { number: 8, slug: "wake", component: lazy(() => import("../stages/wake/WakeStage")) },
  { number: 9, slug: "set", component: lazy(() => import("../stages/set/SetStage")) },
  { number: 10, slug: "leave", component: lazy(() => import("../stages/leave/LeaveStage")) },
];

export const slugOf = (stage: number) => BUILT_STAGES.find((one) => one.number === stage)?.slug ?? "string";
