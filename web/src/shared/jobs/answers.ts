import type { Answers } from "../api/types";

/** Nothing answered yet. */
export const EMPTY_ANSWERS: Answers = {
  typed: {
    name: "",
    day: "",
    place: "",
    latitude_deg: "",
    longitude_deg: "",
    altitude_m: "",
    timezone: "",
    t_air_min_c: "",
    t_air_max_c: "",
    climate_source: "",
    rule_pack: "",
    module: "",
    inverter: "",
    micro: "",
    trunk: "",
    roof: "",
    strung: "",
    mounting: "close",
    nothing_else: false,
  },
  way: "",
  country: "",
  like: "",
  skipped: [],
};

/** Where a new job is begun: its identity is made here, so that what was answered once is kept once. */
export const beginAddress = (): string => `/begin/${crypto.randomUUID()}`;
