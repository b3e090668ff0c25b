import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { memo, useMemo, useRef, type KeyboardEvent, type PointerEvent } from "react";
import type { Day } from "../../../api/staff";
import { Box, Row } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { wholeDay } from "../../../theme/recipes/wholeDay";
import type { Block } from "../blocks";
import { bandsOf, type Light } from "../carry/lights";
import type { BookView } from "./useBookView";

const Picture = chakra("svg");

type Props = Pick<BookView, "slider" | "minutes" | "zoom" | "scrollTo"> & {
  day: Day;
  blocks: Map<string, Block[]>;
  lights: Map<string, Light[]> | null;
};

/** The whole day small, with what of it is in sight: dragged, pressed, or moved by arrow keys. */
export const WholeDay = memo(function WholeDay(props: Props) {
  const { day, blocks, lights, slider, minutes, zoom, scrollTo } = props;
  const styles = useSlotRecipe({ recipe: wholeDay })();
  const strip = useRef<HTMLDivElement>(null);
  /** The minute of the day at which the part in sight was taken hold of. */
  const held = useRef(0);
  const first = Date.parse(day.from);
  const at = (instant: string) => (Date.parse(instant) - first) / 60_000;
  const people = useMemo(
    () => day.lanes.filter((lane) => lane.kind === "practitioner" && blocks.has(lane.id)),
    [day, blocks],
  );
  const minuteUnder = (event: PointerEvent) => {
    const box = strip.current!.getBoundingClientRect();
    return ((event.clientX - box.left) / box.width) * minutes;
  };
  const seen = () => Number(slider.current?.getAttribute("aria-valuenow"));
  const take = (event: PointerEvent) => {
    const inSight = slider.current!.getBoundingClientRect();
    const isInside = event.clientX >= inSight.left && event.clientX <= inSight.right;
    const half = ((inSight.width / strip.current!.clientWidth) * minutes) / 2;
    held.current = isInside ? minuteUnder(event) - seen() : half;
    event.currentTarget.setPointerCapture(event.pointerId);
    scrollTo(minuteUnder(event) - held.current);
  };
  const drag = (event: PointerEvent) => {
    if (event.currentTarget.hasPointerCapture(event.pointerId)) scrollTo(minuteUnder(event) - held.current);
  };
  const press = (event: KeyboardEvent) => {
    const to = { ArrowLeft: seen() - 30, ArrowRight: seen() + 30, Home: 0, End: minutes }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    scrollTo(to);
  };
  return (
    <Box css={styles["root"]}>
      <Row css={styles["head"]}>
        <Trans>Whole day</Trans>
        <Row css={styles["zoom"]}>
          <Press size="small" look="quiet" aria-label={t`More hours`} aria-keyshortcuts="-" onClick={() => zoom(1.25)}>
            −
          </Press>
          <Press
            size="small"
            look="quiet"
            aria-label={t`Fewer hours`}
            aria-keyshortcuts="+"
            onClick={() => zoom(1 / 1.25)}
          >
            +
          </Press>
        </Row>
      </Row>
      <Box ref={strip} css={styles["strip"]} onPointerDown={take} onPointerMove={drag}>
        {day.hours.map((hour) => (
          <Box key={hour.at} css={styles["hour"]} style={{ left: `${(at(hour.at) / minutes) * 100}%` }} aria-hidden>
            {hour.label}
          </Box>
        ))}
        <Picture
          css={styles["visits"]}
          viewBox={`0 0 ${minutes} ${Math.max(1, people.length)}`}
          preserveAspectRatio="none"
          aria-hidden
        >
          <path
            d={people
              .flatMap((lane, i) =>
                blocks
                  .get(lane.id)!
                  .filter((block) => !block.isOpen)
                  .map(
                    (block) =>
                      `M${at(block.coreFrom)} ${i + 0.2}H${at(block.coreUntil)}V${i + 0.75}H${at(block.coreFrom)}Z`,
                  ),
              )
              .join("")}
          />
        </Picture>
        {lights && (
          <Picture css={styles["lights"]} viewBox={`0 0 ${minutes} 1`} preserveAspectRatio="none" aria-hidden>
            <path
              d={[...lights.values()]
                .flatMap(bandsOf)
                .map((band) => `M${at(band.from)} 0H${at(band.until)}v1H${at(band.from)}Z`)
                .join("")}
            />
          </Picture>
        )}
        <Box
          ref={slider}
          css={styles["seen"]}
          role="slider"
          tabIndex={0}
          aria-label={t`Part of the day in view`}
          aria-valuemin={0}
          aria-valuemax={Math.round(minutes)}
          onKeyDown={press}
        />
      </Box>
    </Box>
  );
});
