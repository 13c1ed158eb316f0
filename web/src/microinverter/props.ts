import type { RoofStage } from "../shared/api/types";
import type { StageProps } from "../shared/layout/StageFrame";

/** What every face of the branches is given. */
export interface RoofFaceProps extends StageProps {
  roof: RoofStage;
  branch: string;
  select: (branch: string) => void;
}
