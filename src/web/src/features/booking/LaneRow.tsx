import { t } from "@lingui/core/macro";
import { memo, type MouseEvent } from "react";
import type { Lane } from "../../api/staff";
import { clock, clockRange, dateIn, shortDate } from "../../shared/format";
import { idlePixels } from "../../theme/book";
import type { Block } from "./blocks";
import { BlockMark } from "./BlockMark";
import { edgesOf, freeOf } from "./free";
import { PlacesMark } from "./PlacesMark";
import type { Scale } from "./scale";
import type { Stretch } from "./view/useBookView";
import { tintChoice } from "./tints";

const none: Block[] = [];

type Props = {
  lane: Lane;
  /** Whether it is in sight, or nearly, so that what lies in it is drawn. */
  isNear?: boolean;
  /** The only part of the day that is drawn yet, on the way to all of it. */
  only?: Stretch | null;
  /** Whether there is nothing in it, so that it can be low. */
  idle: boolean;
  zone: string;
  scale: Scale;
  blocks: Block[] | undefined;
  /** The chosen visit, where something of it lies here. */
  chosen: string | null;
  /** Where what is carried fits, where the lane itself says so. */
  glow?: { from: string; until: string }[] | undefined;
  onVisit: (id: string) => void;
  onFree: ((practitionerId: string | null, at: string) => void) | undefined;
  /** Opens what holds in the lane; missing where this person may not change it. */
  onLane?: ((laneId: string) => void) | undefined;
};

/** One lane: when it is open, what blocks it, what is booked. */
export const LaneRow = memo(function LaneRow(props: Props) {
  const {
    lane,
    isNear = true,
    only = null,
    idle,
    zone,
    scale,
    blocks: all = none,
    chosen,
    glow,
    onVisit,
    onFree,
    onLane,
  } = props;
  // A chosen visit is threaded through all its lanes.
  const isDrawn = isNear || chosen !== null;
  const blocks = !isDrawn
    ? none
    : only
      ? all.filter((block) => block.from < only.until && only.from < block.until)
      : all;
  const tint = tintChoice.useValue();
  const isPractitioner = lane.kind === "practitioner";
  const isForSeveral = !isPractitioner && lane.units > 1;
  const at = (instant: string) => onFree?.(isPractitioner ? lane.id : null, instant);
  const press = (event: MouseEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    at(scale.instantAt((event.clientX - box.left) / box.width));
  };
  return (
    <div
      className="kc-lane"
      role="row"
      style={{ height: idle ? idlePixels : `var(--${lane.kind})` }}
      data-lane={lane.name}
      data-lane-id={lane.id}
      data-kind={lane.kind}
      data-units={lane.units}
    >
      <LaneHead lane={lane} idle={idle} onLane={onLane} />
      <div className="kc-track" data-track data-free={onFree ? "" : undefined} onClick={onFree && press}>
        {lane.open.map((open) => (
          <div key={open.from} className="kc-open" style={scale.span(open.from, open.until)} />
        ))}
        {isPractitioner &&
          onLane &&
          edgesOf(lane).map((edge) => (
            <div
              key={`${edge.side} ${edge.at}`}
              className="kc-shift-end"
              data-shift-end={edge.side}
              data-ends-at={edge.at}
              style={{ left: `${scale.at(edge.at)}%` }}
            />
          ))}
        {lane.blocked.map((block) => (
          <div
            key={block.from}
            className="kc-shut"
            title={`${block.reason}, ${clockRange(block.from, block.until, zone)}`}
            style={scale.span(block.from, block.until)}
          >
            <span>{block.reason}</span>
          </div>
        ))}
        {lane.stoppedOnline.map((stop) => (
          <div
            key={`online ${stop.from}`}
            className="kc-offline"
            title={t`${stop.reason ?? ""}, ${clockRange(stop.from, stop.until, zone)}`}
            style={scale.span(stop.from, stop.until)}
          />
        ))}
        {!isForSeveral &&
          lane.kept.map((kept) => (
            <div
              key={`kept ${kept.from}`}
              className="kc-kept"
              title={
                kept.client
                  ? t`Proposed to ${kept.client}, kept until ${shortDate(dateIn(kept.runsOut, zone))}, ${clock(kept.runsOut, zone)}`
                  : t`Kept for somebody who is booking online, until ${clock(kept.runsOut, zone)}`
              }
              style={scale.span(kept.from, kept.until)}
            >
              <span>{kept.client ? t`◈ ${kept.client}?` : t`kept until ${clock(kept.runsOut, zone)}`}</span>
            </div>
          ))}
        {isPractitioner &&
          isDrawn &&
          !only &&
          freeOf(lane, blocks).map((free) => (
            <div
              key={free.from}
              role="gridcell"
              className="kc-free"
              tabIndex={-1}
              data-cell={Date.parse(free.from)}
              data-at={free.from}
              aria-label={`${lane.name}, ${clockRange(free.from, free.until, zone)}`}
              style={scale.span(free.from, free.until)}
              onKeyDown={(event) => {
                if (event.key === "Enter") at(free.from);
              }}
            />
          ))}
        {glow?.map((band) => (
          <div key={band.from} className="kc-light" data-light={lane.id} style={scale.span(band.from, band.until)} />
        ))}
        {isForSeveral && (
          <PlacesMark
            blocks={blocks}
            units={lane.units}
            lane={lane.name}
            zone={zone}
            scale={scale}
            chosen={chosen}
            onOpen={onVisit}
          />
        )}
        {(isForSeveral ? none : blocks).map((block) => (
          <BlockMark
            key={block.key}
            block={block}
            lane={lane.name}
            zone={zone}
            scale={scale}
            tall={isPractitioner}
            tint={tint}
            chosen={block.visit.id === chosen}
            onOpen={onVisit}
          />
        ))}
      </div>
    </div>
  );
});

type HeadProps = { lane: Lane; idle: boolean; onLane: ((laneId: string) => void) | undefined };

const LaneHead = memo(function LaneHead({ lane, idle, onLane }: HeadProps) {
  return (
    <div className="kc-head" role="rowheader" title={lane.kind === "practitioner" && !idle ? undefined : lane.detail}>
      <HeadWords lane={lane} idle={idle} />
      {onLane && (
        <button
          type="button"
          className="kc-head-press"
          tabIndex={-1}
          data-cell={0}
          aria-label={t`${lane.name}: hours and blocked time`}
          onClick={() => onLane(lane.id)}
        />
      )}
    </div>
  );
});

function HeadWords({ lane, idle }: { lane: Lane; idle: boolean }) {
  const units = lane.units > 1 ? ` ×${lane.units}` : lane.kind === "equipment" ? " ×1" : "";
  if (lane.kind !== "practitioner" || idle)
    return (
      <div className="kc-head-line" data-idle={idle ? "" : undefined}>
        <b>
          {lane.name}
          {units}
        </b>{" "}
        {lane.detail}
      </div>
    );
  return (
    <>
      <b>{lane.name}</b>
      <div className="kc-head-line">
        {lane.detail}
        {lane.fullness !== null && ` · ${lane.fullness} %`}
      </div>
      {lane.fullness !== null && <div className="kc-full" aria-hidden style={{ height: `${lane.fullness}%` }} />}
    </>
  );
}
