import type { ComponentType } from "react";
import { lazyAgain } from "../shared/lib/lazyAgain";
import type { StageProps } from "../shared/layout/StageFrame";

export interface StageEntry {
  number: number;
  slug: string;
  component: ComponentType<StageProps>;
}

/** The stages by number, each with its screen. */
export const STAGES: StageEntry[] = [
  { number: 1, slug: "arrive", component: lazyAgain(() => import("../stages/arrive/ArriveStage")) },
  { number: 2, slug: "hang", component: lazyAgain(() => import("../stages/hang/HangStage")) },
  { number: 3, slug: "earth", component: lazyAgain(() => import("../stages/earth/EarthStage")) },
  { number: 4, slug: "string", component: lazyAgain(() => import("../stages/string/StringStage")) },
  { number: 5, slug: "feed", component: lazyAgain(() => import("../stages/feed/FeedStage")) },
  { number: 6, slug: "talk", component: lazyAgain(() => import("../stages/talk/TalkStage")) },
  { number: 7, slug: "prove", component: lazyAgain(() => import("../stages/prove/ProveStage")) },
  { number: 8, slug: "wake", component: lazyAgain(() => import("../stages/wake/WakeStage")) },
  { number: 9, slug: "set", component: lazyAgain(() => import("../stages/set/SetStage")) },
  { number: 10, slug: "leave", component: lazyAgain(() => import("../stages/leave/LeaveStage")) },
];

/** The day lies over all stages, and is none of them. */
export const DAY: StageEntry = { number: 0, slug: "day", component: lazyAgain(() => import("../day/DayPage")) };
