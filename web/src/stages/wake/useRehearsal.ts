import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api } from "../../shared/api/calls";
import type { ActIn, Rehearsal, RehearseIn } from "../../shared/api/types";

const TICK_MS = 400;
const MS_PER_S = 1000;

export interface Setting {
  face: "on" | "off" | "replace" | "emergency";
  sun: NonNullable<RehearseIn["sun"]>;
  supply: NonNullable<RehearseIn["supply"]>;
  seed: number;
}

export interface Playing {
  played: Rehearsal | undefined;
  error: Error | null;
  /** What is shown is of the moment before: the clock runs on while the server plays. */
  isFormer: boolean;
  atS: number;
  speed: number;
  setSpeed: (speed: number) => void;
  act: (act: Omit<ActIn, "at_s">) => void;
  again: (setting: Setting) => void;
  setting: Setting;
}

/** A rehearsal: what was done so far and the clock; the server plays it, the same each time. */
export function useRehearsal(jobId: string): Playing {
  const [setting, setSetting] = useState<Setting>({ face: "on", sun: "bright", supply: "usual", seed: 1 });
  const [acts, setActs] = useState<ActIn[]>([]);
  const [atS, setAtS] = useState(0);
  const [speed, setSpeed] = useState(1);
  const until_s = Math.floor(atS);
  const emergency = setting.face === "emergency";
  const body: RehearseIn = {
    phase: setting.face === "emergency" ? "off" : setting.face,
    emergency,
    sun: setting.sun,
    supply: setting.supply,
    seed: setting.seed,
    until_s,
    acts,
  };
  const query = useQuery({
    queryKey: ["rehearsal", jobId, body],
    queryFn: () => api.rehearse(jobId, body),
    placeholderData: keepPreviousData,
    gcTime: 0,
    retry: false,
  });
  const longestS = query.data?.longest_s ?? Infinity;
  useEffect(() => {
    if (speed === 0) return undefined;
    const timer = setInterval(() => setAtS((now) => Math.min(now + (speed * TICK_MS) / MS_PER_S, longestS)), TICK_MS);
    return () => clearInterval(timer);
  }, [speed, longestS]);
  return {
    played: query.data,
    error: query.error,
    isFormer: query.isPlaceholderData,
    atS,
    speed,
    setSpeed,
    act: (one) => setActs([...acts, { ...one, at_s: until_s }]),
    again: (next) => {
      setSetting(next);
      setActs([]);
      setAtS(0);
      setSpeed(1);
    },
    setting,
  };
}
