import { t } from "@lingui/core/macro";
import { Fragment, useId, useState } from "react";
import type { Shift } from "../../api/setup";
import { timeAt } from "../../shared/fields/clockText";
import { FloatingAt } from "../../shared/Floating";
import { Press } from "../../shared/Press";
import { Piece } from "../../shared/ribbon/Piece";
import { RibbonRow, Ribbons } from "../../shared/ribbon/Ribbons";
import { stretchWords } from "../../shared/ribbon/scale";
import { Strip } from "../../shared/ribbon/Strip";
import { room, scaleToDraw, type Stretch } from "../../shared/ribbon/stretch";
import { stretchOf } from "../../shared/week/stretchOf";
import { breakOf, movedTo } from "../team/rota/rotaDraft";
import { ShiftPanel } from "../team/rota/ShiftPanel";

type Props = {
  label: string;
  shifts: Shift[];
  home: string;
  errors: Record<string, string>;
  onChange: (shifts: Shift[]) => void;
};

const usual: Stretch = { from: 9 * 60, until: 17 * 60 };

/** The shifts of one day, drawn and dragged like those of a rota. */
export function DayRibbon({ label, shifts, home, errors, onChange }: Props) {
  const base = useId();
  const [open, setOpen] = useState<number | null>(null);
  const scale = scaleToDraw(shifts.map(stretchOf));
  const set = (index: number, shift: Shift) => onChange(shifts.map((other, i) => (i === index ? shift : other)));
  const remove = (index: number) => {
    setOpen(null);
    onChange(shifts.filter((_, i) => i !== index));
  };
  const add = (drawn: Stretch | null, at: number) => {
    const free = room(at, shifts.map(stretchOf), scale);
    if (!free) return;
    const wanted = drawn ?? usual;
    const [from, until] = [Math.max(wanted.from, free.from), Math.min(wanted.until, free.until)];
    const stretch = until > from ? { from, until } : free;
    onChange([...shifts, { locationId: home, from: timeAt(stretch.from), until: timeAt(stretch.until), breaks: [] }]);
    setOpen(shifts.length);
  };
  const last = shifts
    .map(stretchOf)
    .sort((a, b) => a.until - b.until)
    .at(-1);
  return (
    <>
      <Ribbons label={label} scale={scale}>
        <RibbonRow
          name=""
          tail={
            <Press
              size="small"
              look="quiet"
              aria-label={t`Add a shift`}
              onClick={() => add(null, last?.until ?? usual.from)}
            >
              +
            </Press>
          }
        >
          <Strip label={label} onDraw={add}>
            {shifts.map((shift, i) => (
              <Fragment key={i}>
                <Piece
                  id={`${base}-${i}`}
                  stretch={stretchOf(shift)}
                  look="shift"
                  label={t`shift`}
                  text={stretchWords(stretchOf(shift))}
                  isChosen={open === i}
                  onPress={() => setOpen(i)}
                  onChange={(to) => set(i, movedTo(shift, to))}
                  onRemove={() => remove(i)}
                />
                {(shift.breaks ?? []).map((pause) => (
                  <Piece key={pause.from} stretch={breakOf(shift, pause)} look="break" label="" isBehind />
                ))}
              </Fragment>
            ))}
          </Strip>
        </RibbonRow>
      </Ribbons>
      {open !== null && shifts[open] && (
        <FloatingAt
          label={t`Shift`}
          anchor={() => document.getElementById(`${base}-${open}`)}
          onClose={() => setOpen(null)}
        >
          <ShiftPanel
            shift={shifts[open]}
            errors={errors}
            path={`shifts[${open}].`}
            onChange={(shift) => set(open, shift)}
            onRemove={() => remove(open)}
          />
        </FloatingAt>
      )}
    </>
  );
}
