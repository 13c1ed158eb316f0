import { useCallback, useState } from "react";
import { GateLine } from "../../shared/judging/GateLine";
import { JudgementList } from "../../shared/judging/JudgementList";
import { Rail, type Group } from "../../shared/readings/Rail";
import { StageFrame, type StageProps } from "../../shared/layout/StageFrame";
import { TestLedger } from "./TestLedger";
import { Testers } from "./Testers";
import { TesterFile } from "./TesterFile";
import { useTester } from "../../shared/readings/useTester";
import { say } from "../../words/say";

const STAGE = 7;
const GROUPS: readonly Group[] = [
  { title: say("prove.looked_over"), kinds: ["look_over"] },
  {
    title: say("common.strings"),
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
  { title: say("prove.earth_and_bonding"), kinds: ["continuity"] },
  { title: say("prove.supply"), kinds: ["supply_voltage", "conductor_voltage", "supply_frequency", "rotation"] },
  {
    title: say("prove.runs_and_protection"),
    kinds: ["insulation_ac_volts", "insulation_ac", "loop_impedance", "residual_ms", "residual_ma"],
  },
  { title: say("prove.switches"), kinds: ["switch_works"] },
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
      title={say("prove.prove")}
      about={say("prove.of_tests_clear", { clear: prove.clear, tests: prove.tests })}
      aside={prove.note}
      caution={[
        say("common.licensed_work"),
        say("prove.live_tests_on_the_supply_strings"),
        say("prove.dead_tests_only_on_what_is"),
        say("prove.your_local_code_wins_over_every"),
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
