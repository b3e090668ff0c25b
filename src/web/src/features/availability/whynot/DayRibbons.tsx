import { t } from "@lingui/core/macro";
import { Fragment, useMemo } from "react";
import type { DayReasons } from "../../../api/setup";
import { Beside } from "../../../shared/ribbon/Beside";
import { Piece } from "../../../shared/ribbon/Piece";
import { RibbonRow, Ribbons } from "../../../shared/ribbon/Ribbons";
import { Strip } from "../../../shared/ribbon/Strip";
import { scaleOf } from "../../../shared/ribbon/stretch";
import { useDeskSetup } from "../../../shared/today";
import { nearestTo, offeredOf, placed, rowsOf, type Start } from "./dayRows";
import { gateWords, lookOf, shortOf } from "./words";
import { timeWords } from "../../../shared/format";

/** A run of fewer minutes has no room for its words. */
const shortRun = 90;

type Props = { day: DayReasons; start: Start | undefined; onStart: (clock: string) => void };

/** A ribbon for each thing that limits the day, in deciding order, and the offered starts last; the time looked at goes through all. */
export function DayRibbons({ day, start, onStart }: Props) {
  const setup = useDeskSetup();
  const starts = useMemo(() => placed(day.strip), [day.strip]);
  const rows = useMemo(() => rowsOf(day.strip), [day.strip]);
  const offered = useMemo(() => offeredOf(day.strip), [day.strip]);
  const mark = starts.find((other) => other.start === start?.start)?.from;
  const whole = starts.length > 0 ? { from: starts[0]!.from, until: starts.at(-1)!.until } : undefined;
  const point = (minute: number) => {
    const found = nearestTo(day.strip, minute);
    if (found) onStart(found.clock);
  };
  const name = (subjectId: string | null) => setup.practitioners.find((person) => person.id === subjectId)?.name;
  return (
    <Ribbons label={t`The day`} scale={scaleOf(whole ? [whole] : [])} mark={mark}>
      {rows.map((row) => {
        const called = name(row.subjectId) ?? gateWords[row.gate];
        return (
          <RibbonRow key={row.key} name={called}>
            <Strip label={called} mark={mark} onDraw={(_, at) => point(at)}>
              {whole && <Piece stretch={whole} look="open" label="" isBehind />}
              {row.dark.map((dark) => (
                <Piece
                  key={dark.from}
                  stretch={dark}
                  look={lookOf(dark.code)}
                  label={dark.text}
                  text={shortOf(dark.code)}
                  onPress={(at) => (at === undefined ? onStart(dark.clock) : point(at))}
                />
              ))}
            </Strip>
          </RibbonRow>
        );
      })}
      <RibbonRow name={t`Offered`} note={offered.length === 0 ? t`nothing on this day` : t`what is left`}>
        <Strip label={t`Offered`} mark={mark} onDraw={(_, at) => point(at)}>
          {whole && <Piece stretch={whole} look="open" label="" isBehind />}
          {offered.map((run, i) => {
            const words =
              run.first === run.last ? timeWords(run.first) : `${timeWords(run.first)} … ${timeWords(run.last)}`;
            const isShort = run.until - run.from < shortRun;
            const hasRoom = (offered[i + 1]?.from ?? Infinity) - run.until >= shortRun;
            return (
              <Fragment key={run.from}>
                <Piece
                  stretch={run}
                  look="offered"
                  label={t`Offered`}
                  text={isShort ? undefined : words}
                  onPress={(at) => (at === undefined ? onStart(run.first) : point(at))}
                />
                {isShort && hasRoom && <Beside stretch={run}>{words}</Beside>}
              </Fragment>
            );
          })}
        </Strip>
      </RibbonRow>
    </Ribbons>
  );
}
