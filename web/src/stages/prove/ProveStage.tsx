import { useCallback, useState } from "react";
import { GateLine } from "../../shared/judging/GateLine";
import { JudgementList } from "../../shared/judging/JudgementList";
import { Rail, type Group } from "../../shared/readings/Rail";
import { StageFrame, type StageProps } from "../../shared/layout/StageFrame";
import { TestLedger } from "./TestLedger";
import { Testers } from "./Testers";
import { TesterFile } from "./TesterFile";
import { useTester } from "../../shared/readings/useTester";

const STAGE = 7;
const GROUPS: readonly Group[] = [
  { title: "Looked over", kinds: ["look_over"] },
  {
    title: "Strings",
    kinds: [
      "polarity",
      "open_circuit",
      "short_circuit",
      "operating",
      "insulation_volts",
      "insulation_plus",
      "insulation_minus",
      "safety_voltage",
      "reporting",
    ],
  },
  { title: "Earth and bonding", kinds: ["continuity"] },
  { title: "Supply", kinds: ["supply_voltage", "conductor_voltage", "supply_frequency", "rotation"] },
  {
    title: "Runs and protection",
    kinds: ["insulation_ac_volts", "insulation_ac", "loop_impedance", "residual_ms", "residual_ma"],
  },
  { title: "Switches", kinds: ["switch_works"] },
];

/** Stage 7: the test record, every test with what is expected, read, with what, by whom and what it means. */
export default function ProveStage({ jobId, view, whyAll }: StageProps) {
  const { assessment, plan } = view;
  const { prove } = assessment;
  const [wanted, setWanted] = useState<string | null>(null);
  const seen = useCallback(() => setWanted(null), []);
  const [tester, setTester] = useTester(
    jobId,
    plan.testing.instruments.map((one) => one.name),
  );
  const keys = prove.groups.flatMap((group) => group.tests.map((test) => test.key));
  return (
    <StageFrame
      title="Prove"
      about={`${prove.clear} of ${prove.tests} tests clear`}
      aside={prove.note}
      caution={[
        "Licensed work.",
        "Live tests on the supply, strings live in daylight: insulated probes, one hand, the tester proved before and after.",
        "Dead tests only on what is locked and proved dead.",
        "Your local code wins over every figure here.",
      ].join(" ")}
      rail={
        <>
          <Testers jobId={jobId} instruments={prove.instruments} tester={tester} choose={setTester} />
          <Rail
            jobId={jobId}
            every={assessment.asks}
            stage={STAGE}
            timezone={plan.site.timezone}
            whyAll={whyAll}
            groups={GROUPS}
            wanted={wanted}
            seen={seen}
            also={keys}
          />
        </>
      }
    >
      <GateLine gate={prove.gate} />
      <TesterFile jobId={jobId} tester={tester} timezone={plan.site.timezone} />
      <TestLedger
        jobId={jobId}
        prove={prove}
        asks={assessment.asks}
        current={plan.testing.current}
        timezone={plan.site.timezone}
        optimised={plan.optimiser !== null}
        open={setWanted}
      />
      <JudgementList judgements={prove.judgements} allOpen={whyAll} />
    </StageFrame>
  );
}
