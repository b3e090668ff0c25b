import { memo, useLayoutEffect, useState, type RefObject } from "react";
import { timeWords } from "../../shared/format";
import { placesOf } from "./carry/ghost";
import type { Light } from "./carry/lights";
import { bandsOf, later } from "./carry/lights";
import type { Chosen } from "./fits";
import type { Scale } from "./scale";

type Props = {
  picture: RefObject<HTMLElement | null>;
  lights: Map<string, Light[]>;
  chosen: Chosen | null;
  scale: Scale;
};

/** All lights in one layer over the lanes, and the place that is chosen. */
export const LightMarks = memo(function LightMarks({ picture, lights, chosen, scale }: Props) {
  const [places, setPlaces] = useState<ReturnType<typeof placesOf> | null>(null);
  useLayoutEffect(() => {
    const root = picture.current;
    if (!root) return;
    const measure = () => setPlaces(placesOf(root));
    measure();
    const seen = new ResizeObserver(measure);
    seen.observe(root);
    return () => seen.disconnect();
  }, [picture]);
  if (!places) return null;
  return (
    <>
      {[...lights].flatMap(([lane, ranges]) => {
        const place = places.get(lane);
        if (!place) return [];
        return bandsOf(ranges).map((band) => {
          const { left, width } = scale.span(band.from, band.until);
          return (
            <div
              key={`${lane} ${band.from}`}
              className="kc-light"
              data-light={lane}
              style={{ left, width, bottom: "auto", top: place.top + place.height - 10 }}
            />
          );
        });
      })}
      {chosen && <ChosenGhost places={places} lights={lights} chosen={chosen} scale={scale} />}
    </>
  );
});

type ChosenProps = { places: ReturnType<typeof placesOf>; lights: Map<string, Light[]>; chosen: Chosen; scale: Scale };

/** The visit as it would lie where it is chosen. */
function ChosenGhost({ places, lights, chosen, scale }: ChosenProps) {
  const at = Date.parse(chosen.start);
  const lane = chosen.room?.id ?? chosen.practitionerId;
  const light = lights.get(lane)?.find((range) => Date.parse(range.first) <= at && at <= Date.parse(range.last));
  if (!light) return null;
  return (
    <>
      {light.claims.map((claim) => {
        const place = places.get(claim.resourceId);
        if (!place) return null;
        const share = place.height / place.units;
        return (
          <div
            key={`${claim.resourceId} ${claim.unit} ${claim.from}`}
            className="kc-ghost"
            data-chosen-place
            style={{
              ...scale.span(later(chosen.start, claim.coreFrom), later(chosen.start, claim.coreUntil)),
              top: place.top + claim.unit * share + 1,
              height: share - 2,
            }}
          >
            {claim.unit === 0 && claim.coreFrom === 0 && timeWords(chosen.clock)}
          </div>
        );
      })}
    </>
  );
}
