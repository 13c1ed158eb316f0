import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { api } from "../shared/api/calls";
import type { Climate } from "../shared/api/types";
import { FileButton } from "../shared/fields/FileButton";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { figure } from "../shared/lib/figures";
import { typing, type AskProps } from "./answering";
import { say } from "../words/say";

const FIELDS = [
  ["t_air_min_c", say("common.coldest_air"), "−9 °C"],
  ["t_air_max_c", say("common.hottest_air"), "31 °C"],
  ["climate_source", say("common.where_these_come_from"), say("begin.harbour_office_log")],
] as const;

/** The design air: from weather near there, or typed. */
export function AskAir({ answers, put }: AskProps) {
  const { typed } = answers;
  const [air, setAir] = useState({
    t_air_min_c: typed.t_air_min_c,
    t_air_max_c: typed.t_air_max_c,
    climate_source: typed.climate_source,
  });
  const client = useQueryClient();
  const [north, east] = [Number(typed.latitude_deg), Number(typed.longitude_deg)];
  const isPlaced = typed.latitude_deg !== "" && typed.longitude_deg !== "";
  const near = useQuery({
    queryKey: ["climates", north, east],
    queryFn: () => api.climates(north, east),
    enabled: isPlaced,
  });
  const read = useMutation({
    mutationFn: (file: File) => api.climate(file),
    onSuccess: () => client.invalidateQueries({ queryKey: ["climates"] }),
  });
  const fresh = read.data === undefined ? [] : [{ climate: read.data, distance_km: null }];
  const offered = isPlaced ? (near.data ?? []) : fresh;
  const take = (climate: Climate) => {
    const [cold, hot] = [climate.cold[0], climate.hot[0]];
    if (cold === undefined || hot === undefined) return;
    put(
      typing({
        t_air_min_c: String(cold.t_air_c),
        t_air_max_c: String(hot.t_air_c),
        climate_source: say("begin.coldest_and_hottest_hour", { source: climate.source }),
        strung: "",
      }),
    );
  };
  return (
    <div className="ask-fields">
      {offered.map(({ climate, distance_km: off }) => (
        <button key={climate.source} type="button" className="choice" onClick={() => take(climate)}>
          <b>
            {say("begin.to", {
              t_air_c: figure(climate.cold[0]?.t_air_c ?? 0, "°C"),
              t_air_c2: figure(climate.hot[0]?.t_air_c ?? 0, "°C"),
            })}
          </b>
          <small>
            {say("begin.coldest_and_hottest_hour_2", {
              station: climate.station,
              off: off === null ? say("begin.place_not_told") : say("begin.off", { off: figure(off, "km", 0) }),
              source: climate.source,
            })}
          </small>
        </button>
      ))}
      <form
        className="ask-fields"
        onSubmit={(event) => {
          event.preventDefault();
          put(typing({ ...air, strung: "" }));
        }}
      >
        {FIELDS.map(([field, label, example]) => (
          <label className="entry" key={field}>
            <span className="entry-label">{label}</span>
            <Input
              size="large"
              value={air[field]}
              placeholder={example}
              onChange={(event) => setAir({ ...air, [field]: event.target.value })}
            />
          </label>
        ))}
        <Button type="primary" size="large" htmlType="submit">
          {say("common.next")}
        </Button>
      </form>
      <FileButton
        label={say("common.weather_file")}
        accept=".epw,.csv,.json,text/csv,application/json"
        busy={read.isPending}
        take={(file) => read.mutate(file)}
      >
        {say("begin.read_a_weather_file_in")}
      </FileButton>
      <p className="source">{say("begin.epw_tmy3_pvgis_by_the_hour")}</p>
      <ProblemNote error={read.error} />
    </div>
  );
}
