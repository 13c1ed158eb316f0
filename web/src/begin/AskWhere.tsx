import { useQuery } from "@tanstack/react-query";
import { Input } from "antd";
import { Suspense, useDeferredValue, useState } from "react";
import { api } from "../shared/api/calls";
import type { Spot } from "../shared/api/types";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { figure } from "../shared/lib/figures";
import { lazyAgain } from "../shared/lib/lazyAgain";
import { typing, type AskProps } from "./answering";
import { say } from "../words/say";

const WorldMap = lazyAgain(() => import("./WorldMap"));
const DIGITS = 3;

/** Where the house stands: a town typed, coordinates pasted, or a point on the map. */
export function AskWhere({ question, put }: AskProps) {
  const [typed, setTyped] = useState("");
  const [map, setMap] = useState(false);
  // A point of no town has no name yet.
  const [bare, setBare] = useState<Spot | null>(null);
  const asked = useDeferredValue(typed.trim());
  const found = useQuery({
    queryKey: ["spots", asked],
    queryFn: () => api.spots(asked),
    enabled: asked.length > 1,
    retry: false,
    placeholderData: (before) => before,
  });
  const take = (spot: Spot, place = spot.place) => {
    if (place === "") {
      setBare(spot);
      return;
    }
    put((now) => ({
      ...typing({
        place,
        latitude_deg: String(spot.latitude_deg),
        longitude_deg: String(spot.longitude_deg),
        timezone: spot.timezone,
      })(now),
      country: spot.country,
    }));
  };
  const spots = asked.length > 1 ? (found.data ?? []) : [];
  return (
    <div className="ask-fields">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          const [first] = spots;
          if (first !== undefined && !found.isPlaceholderData) take(first);
        }}
      >
        <Input
          size="large"
          aria-label={question.asks}
          placeholder={say("begin.town_or_coordinates_54_2_0")}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
      </form>
      {bare !== null && <Unnamed spot={bare} take={take} />}
      <ul className="spots" aria-label={say("begin.places_found")}>
        {spots.map((spot) => (
          <li key={`${spot.place} ${spot.latitude_deg} ${spot.longitude_deg}`}>
            <button type="button" className="choice" onClick={() => take(spot)}>
              <b>{spot.place === "" ? say("begin.this_point") : spot.place}</b>
              <small>
                {say("begin.north_east", {
                  near: spot.near,
                  latitude_deg: figure(spot.latitude_deg, "°", DIGITS),
                  longitude_deg: figure(spot.longitude_deg, "°", DIGITS),
                  timezone: spot.timezone,
                })}
              </small>
            </button>
          </li>
        ))}
      </ul>
      {asked.length > 1 && found.data?.length === 0 && (
        <p className="ask-none">{say("begin.no_town_of_the_list_is")}</p>
      )}
      <ProblemNote error={asked.length > 1 ? found.error : null} />
      <button type="button" className="quiet" aria-expanded={map} onClick={() => setMap(!map)}>
        {map ? say("begin.put_the_map_away") : say("begin.point_on_a_map")}
      </button>
      {map && (
        <Suspense fallback={<p>{say("begin.opening_the_map")}</p>}>
          <WorldMap take={(north, east) => void api.spotAt(north, east).then((spot) => take(spot))} />
        </Suspense>
      )}
    </div>
  );
}

function Unnamed({ spot, take }: { spot: Spot; take: (spot: Spot, place: string) => void }) {
  const [place, setPlace] = useState("");
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        take(spot, place.trim());
      }}
    >
      <label className="entry">
        <span className="entry-label">{say("begin.no_town_is_near_what_is")}</span>
        <Input value={place} onChange={(event) => setPlace(event.target.value)} />
      </label>
    </form>
  );
}
