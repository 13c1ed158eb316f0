import type { StageProps } from "../../shared/layout/StageFrame";

/** What every face of this stage gets. take: opens a reading of the rail by its key. */
export interface TalkFaceProps extends StageProps {
  take: (key: string) => void;
}
