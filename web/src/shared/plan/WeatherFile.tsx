import { useMutation } from "@tanstack/react-query";
import { Button, Select } from "antd";
import { useState } from "react";
import { api } from "../api/calls";
import type { Climate } from "../api/types";
import { useChange } from "../api/useJobWrite";
import { FileButton } from "../fields/FileButton";
import { figure } from "../lib/figures";
import { ProblemNote } from "../judging/ProblemNote";
import "./WeatherFile.css";

/** Coldest and hottest air from an hourly weather file, read on this installation. */
export function WeatherFile({ jobId }: { jobId: string }) {
  const read = useMutation({ mutationFn: (file: File) => api.climate(file) });
  return (
    <section className="weather">
      <FileButton
        label="Weather file"
        accept=".epw,.csv,text/csv"
        busy={read.isPending}
        take={(file) => read.mutate(file)}
      >
        Take them from a weather file
      </FileButton>
      <p className="source">EPW, or CSV with a time and an air temperature column, hourly, one year at least.</p>
      <ProblemNote error={read.error} />
      {read.data !== undefined && <Tails key={read.data.source} jobId={jobId} climate={read.data} />}
    </section>
  );
}

const percentile = (percent: number) =>
  percent === 0 ? "coldest hour" : percent === 100 ? "hottest hour" : `${figure(percent, "%")} of hours below`;

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
        {climate.station}:{" "}
        {climate.first_year === climate.last_year
          ? climate.first_year
          : `${climate.first_year} to ${climate.last_year}`}
        , {climate.hours} hours, {climate.missing} missing. Mean of each year's coldest hour{" "}
        {figure(climate.mean_yearly_min_c, "°C")}.
      </p>
      <div className="pair">
        <Select aria-label="Cold percentile" value={cold} options={options(climate.cold)} onChange={setCold} />
        <Select aria-label="Hot percentile" value={hot} options={options(climate.hot)} onChange={setHot} />
      </div>
      <Button type="primary" loading={change.isPending} onClick={take}>
        Take these two
      </Button>
      <ProblemNote error={change.error} />
    </div>
  );
}
