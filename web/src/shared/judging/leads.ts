import { createContext, useContext } from "react";
import type { Assessment, Judgement, Lead } from "../api/types";

const named = (one: Judgement) => `${one.rule_id} ${one.reason}`;

/** Where each verdict that waits is settled, as the core has it. */
export const Leads = createContext<ReadonlyMap<string, Lead>>(new Map());

export const leadsOf = (assessment: Assessment | undefined): ReadonlyMap<string, Lead> =>
  new Map(
    (assessment?.open_points ?? []).flatMap(({ judgement, lead }) =>
      lead === undefined || lead === null ? [] : [[named(judgement), lead]],
    ),
  );

export const useLead = (judgement: Judgement): Lead | undefined => useContext(Leads).get(named(judgement));
