import { useMutation } from "@tanstack/react-query";
import { Button, Select } from "antd";
import { useState } from "react";
import { api } from "../api/calls";
import type { Climate } from "../api/types";
import { useChange } from "../api/useJobWrite";
import { FileButton } from "../fields/FileButton";
import { figure } from "../lib/figures";
import { ProblemNote } from "../judging/ProblemNote";
import { say } from "../../words/say";
import "./WeatherFile.css";

/** Coldest and hottest air from an hourly weather file, read on this installation. */
export function WeatherFile({ jobId }: { jobId: string }) {
  const read = useMutation({ mutationFn: (file: File) => api.climate(file) });
  return (
    <section className="weather">
      <FileButton
        label={say("common.weather_file")}
        accept=".epw,.csv,text/csv"
        busy={read.isPending}
        take={(file) => read.mutate(file)}
      >
        {say("shared.take_them_from_a_weather_file")}
      </FileButton>
      <p className="source">{say("shared.epw_or_csv_with_a_time")}</p>
      <ProblemNote error={read.error} />
      {read.data !== undefined && <Tails key={read.data.source} jobId={jobId} climate={read.data} />}
    </section>
  );
}

const percentile = (percent: number) =>
  percent === 0
    ? say("shared.coldest_hour")
    : percent === 100
      ? say("shared.hottest_hour")
      : say("shared.of_hours_below", { percent: figure(percent, "%") });

function Tails({ jobId, climate }: { jobId: string; climate: Climate }) {
  const [cold, setCold] = useState(0);
  const [hot, setHot] = useState(0);
  const change = useChange(jobId);
  const [coldAir, hotAir] = [climate.cold[cold], climate.hot[hot]];
  const take = () => {
    if (coldAir === undefined || hotAir === undefined) return;
    const said = `${climate.source}; ${percentile(coldAir.percentile)}, ${percentile(hotAir.percentile)}`;
    change.mutate([
      { path: "$.site.t_air_min_c", entered: String(coldAir.t_air_c) },
      { path: "$.site.t_air_max_c", entered: String(hotAir.t_air_c) },
      { path: "$.site.climate_source", entered: said },
    ]);
  };
  const options = (tail: Climate["cold"]) =>
    tail.map((one, index) => ({ value: index, label: `${figure(one.t_air_c, "°C")}, ${percentile(one.percentile)}` }));
  return (
    <div className="tails">
      <p>
        {say("shared.hours_missing_mean_of_each_years", {
          station: climate.station,
          first_year:
            climate.first_year === climate.last_year
              ? climate.first_year
              : say("shared.to", { first_year: climate.first_year, last_year: climate.last_year }),
          hours: climate.hours,
          missing: climate.missing,
          mean_yearly_min_c: figure(climate.mean_yearly_min_c, "°C"),
        })}
      </p>
      <div className="pair">
        <Select
          aria-label={say("shared.cold_percentile")}
          value={cold}
          options={options(climate.cold)}
          onChange={setCold}
        />
        <Select
          aria-label={say("shared.hot_percentile")}
          value={hot}
          options={options(climate.hot)}
          onChange={setHot}
        />
      </div>
      <Button type="primary" loading={change.isPending} onClick={take}>
        {say("shared.take_these_two")}
      </Button>
      <ProblemNote error={change.error} />
    </div>
  );
}
