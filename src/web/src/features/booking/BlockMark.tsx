import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { memo } from "react";
import type { VisitState } from "../../api/staff";
import { clockRange } from "../../shared/format";
import { minutesFrom } from "./carry/drawing";
import type { Block } from "./blocks";
import type { Scale } from "./scale";
import { tintBy, type TintBy } from "./tints";

/** The marks of a visit's state: shapes, so that colour is never needed. */
export const marks: Record<VisitState, { mark: string; word: string }> = {
  requested: { mark: "◇", word: t`requested` },
  answered: { mark: "◈", word: t`other times proposed` },
  confirmed: { mark: "○", word: t`confirmed` },
  arrived: { mark: "◐", word: t`arrived` },
  inTreatment: { mark: "●", word: t`in treatment` },
  done: { mark: "✓", word: t`done` },
  noShow: { mark: "✕", word: t`no-show` },
  cancelled: { mark: "✕", word: t`cancelled` },
};

type Props = {
  block: Block;
  lane: string;
  zone: string;
  scale: Scale;
  tall: boolean;
  /** What its colour goes by. */
  tint: TintBy;
  chosen: boolean;
  onOpen: (visitId: string) => void;
};

const on = (yes: boolean) => (yes ? "" : undefined);

/** One block; its label runs on over free time to its right, never over another block. */
export const BlockMark = memo(function BlockMark({ block, lane, zone, scale, tall, tint, chosen, onOpen }: Props) {
  const { visit, line } = block;
  // Units that share a lane lie closer together.
  const gap = block.height < 0.5 ? 0.5 : 2;
  const place = { top: `calc(${block.top * 100}% + ${gap}px)`, height: `calc(${block.height * 100}% - ${gap * 2}px)` };
  if (block.isOpen)
    return <div className="kc-pause" style={{ ...scale.span(block.from, block.until), ...place }} aria-hidden />;
  const name = `${visit.client.givenName} ${visit.client.familyName}`;
  const { word } = marks[visit.state];
  const when = `${line.service}, ${clockRange(line.start, line.end, zone)}`;
  const where = [line.practitioners.map((who) => who.name).join(", "), ...line.rooms].filter(Boolean).join(", ");
  const standing = block.isClash ? `${word}, ${t`clash`}` : word;
  const alert = visit.client.alert ? [visit.client.alert] : [];
  return (
    <div className={`kc-${tintBy(tint, line, visit.state)}`} role="gridcell">
      {/* The pale edge: buffers and turnaround. */}
      {(block.from !== block.coreFrom || block.until !== block.coreUntil) && (
        <div className="kc-edge" style={{ ...scale.span(block.from, block.until), ...place }} />
      )}
      <button
        type="button"
        className="kc-block"
        onClick={(event) => {
          event.stopPropagation();
          onOpen(visit.id);
        }}
        data-visit={visit.reference}
        data-chosen={on(chosen)}
        data-clash={on(block.isClash)}
        data-line={line.id}
        // Where the line ends it is pulled longer or shorter.
        data-ends={on(visit.canChange && block.coreUntil === line.end)}
        tabIndex={-1}
        data-cell={block.isFirst ? Date.parse(block.coreFrom) : undefined}
        aria-label={[name, when, where, standing, ...alert].filter(Boolean).join(", ")}
        title={[name, when, where, standing, ...alert.map((text) => `! ${text}`), lane].join("\n")}
        style={{ ...scale.span(block.coreFrom, block.coreUntil), ...place }}
      >
        {block.isClash && <span className="kc-notch" aria-hidden />}
      </button>
      {block.isFirst && (block.height === 1 || tall) && (
        <BlockWords block={block} zone={zone} scale={scale} tall={tall} chosen={chosen} place={place} />
      )}
    </div>
  );
});

type WordsProps = {
  block: Block;
  zone: string;
  scale: Scale;
  tall: boolean;
  chosen: boolean;
  place: { top: string; height: string };
};

function BlockWords({ block, zone, scale, tall, chosen, place }: WordsProps) {
  const { visit, line } = block;
  const { mark } = marks[visit.state];
  const [given, family] = [visit.client.givenName, visit.client.familyName];
  const isWhole = tall && !block.isClash;
  return (
    <div
      aria-hidden
      className="kc-words"
      data-tall={on(isWhole)}
      // The third line, where there is room for it.
      data-third={isWhole ? clockRange(line.start, line.end, zone) : undefined}
      data-minutes={minutesFrom(block.coreFrom, block.labelUntil)}
      data-chosen={on(chosen)}
      style={{ ...scale.span(block.coreFrom, block.labelUntil), ...place }}
    >
      {/* As few elements as it can be: a full day has hundreds of these. */}
      <b data-initials={`${given.slice(0, 1)}${family.slice(0, 1)}`}>
        {tall && visit.state !== "confirmed" && <span className="kc-mark">{mark} </span>}
        {visit.client.alert && <span className="kc-alert">! </span>}
        <span data-name>{tall ? `${given.slice(0, 1)}. ${family}` : family}</span>
        {visit.isFirst && tall && (
          <i data-name>
            {" · "}
            <Trans>new</Trans>
          </i>
        )}
      </b>
      {isWhole && <div data-name>{line.service}</div>}
    </div>
  );
}
