import { stretchOf } from "../../../shared/week/stretchOf";
import { useId, useState } from "react";
import type { Shift, Weekday } from "../../../api/setup";
import { timeAt } from "../../../shared/fields/clockText";
import { FloatingAt } from "../../../shared/Floating";
import { Box } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { Piece } from "../../../shared/ribbon/Piece";
import { RibbonRow, Ribbons } from "../../../shared/ribbon/Ribbons";
import { stretchWords } from "../../../shared/ribbon/scale";
import { Strip } from "../../../shared/ribbon/Strip";
import { room, scaleToDraw, type Stretch } from "../../../shared/ribbon/stretch";
import { useDeskSetup } from "../../../shared/today";
import { breakOf, dayOf, hoursWords, likeDay, minutesOf, movedTo, type RotaShift } from "./rotaDraft";

import { dayNames, weekdaysInOrder } from "../../../shared/week/dayNames";
import { ShiftPanel } from "./ShiftPanel";

type Props = {
  title: string;
  week: number;
  shifts: RotaShift[];
  errors: Record<string, string>;
  onChange: (shifts: RotaShift[]) => void;
};

/** One week of a rota as seven ribbons: shifts are drawn, dragged, and opened for their figures. */
export function RotaWeek({ title, week, shifts, errors, onChange }: Props) {
  const { locations } = useDeskSetup();
  const base = useId();
  const [chosen, setChosen] = useState<number | null>(null);
  const [open, setOpen] = useState(false);
  const home = shifts[0]?.shift.locationId ?? locations[0]?.id ?? "";
  const hoursOn = (weekday: Weekday) =>
    (locations.find((location) => location.id === home)?.opening ?? [])
      .filter((hours) => hours.weekday === weekday)
      .map(stretchOf);
  const scale = scaleToDraw([...shifts.map((item) => stretchOf(item.shift)), ...weekdaysInOrder.flatMap(hoursOn)]);
  const set = (index: number, shift: Shift) =>
    onChange(shifts.map((item, i) => (i === index ? { ...item, shift } : item)));
  const remove = (index: number) => {
    setChosen(null);
    setOpen(false);
    onChange(shifts.filter((_, i) => i !== index));
  };
  const add = (weekday: Weekday, drawn: Stretch | null, at: number) => {
    const free = room(
      at,
      dayOf(shifts, week, weekday).map((item) => stretchOf(item.shift)),
      scale,
    );
    if (!free) return;
    // A press alone takes the opening hours, as far as there is room.
    const [opening] = hoursOn(weekday);
    const wanted = drawn ?? opening ?? { from: 9 * 60, until: 17 * 60 };
    const from = Math.max(wanted.from, free.from);
    const until = Math.min(wanted.until, free.until);
    const fitting = until > from ? { from, until } : free;
    onChange([
      ...shifts,
      {
        week,
        weekday,
        shift: { locationId: home, from: timeAt(fitting.from), until: timeAt(fitting.until), breaks: [] },
      },
    ]);
    setChosen(shifts.length);
    setOpen(true);
  };
  const placeName = (shift: Shift) =>
    locations.length > 1 ? ` ${locations.find((location) => location.id === shift.locationId)?.name ?? ""}` : "";
  const opened = open && chosen !== null ? shifts[chosen] : undefined;
  return (
    <Box mb="18px">
      <Box as="h2" fontSize="16px" mb="2px">
        {title}
      </Box>
      <Ribbons label={title} scale={scale}>
        {weekdaysInOrder.map((weekday) => {
          const own = dayOf(shifts, week, weekday);
          const minutes = own.reduce((sum, item) => sum + minutesOf(item.shift), 0);
          const { short, long } = dayNames(weekday);
          return (
            <RibbonRow
              key={weekday}
              name={short}
              tail={
                <>
                  {minutes > 0 ? hoursWords(minutes) : "off"}{" "}
                  <Press
                    size="small"
                    look="quiet"
                    aria-label={`Add a shift on ${long}`}
                    onClick={() => add(weekday, null, own.at(-1) ? stretchOf(own.at(-1)!.shift).until : scale.from)}
                  >
                    +
                  </Press>
                </>
              }
            >
              <Strip label={`${long}, ${title}`} onDraw={(drawn, at) => add(weekday, drawn, at)}>
                {hoursOn(weekday).map((hours) => (
                  <Piece key={hours.from} stretch={hours} look="outline" label="" />
                ))}
                {own.length === 0 && (
                  <Box
                    position="absolute"
                    insetStart="10px"
                    top="8px"
                    fontSize="14px"
                    color="quiet"
                    pointerEvents="none"
                    bg="woven"
                    zIndex={1}
                  >
                    off · press or draw to add a shift
                  </Box>
                )}
                {own.map(({ shift, index }) => (
                  <ShiftPiece
                    key={index}
                    id={`${base}-${index}`}
                    shift={shift}
                    label={`${long}, shift${placeName(shift)}`}
                    text={`${stretchWords(stretchOf(shift))}${placeName(shift)}`}
                    isChosen={chosen === index}
                    onPress={() => {
                      setChosen(index);
                      setOpen(true);
                    }}
                    onMove={(to) => {
                      setChosen(index);
                      set(index, movedTo(shift, to));
                    }}
                    onRemove={() => remove(index)}
                  />
                ))}
              </Strip>
            </RibbonRow>
          );
        })}
      </Ribbons>
      {opened && (
        <FloatingAt
          label={`Shift on ${dayNames(opened.weekday).long}`}
          anchor={() => document.getElementById(`${base}-${chosen}`)}
          onClose={() => setOpen(false)}
        >
          <ShiftPanel
            shift={opened.shift}
            weekday={opened.weekday}
            errors={errors}
            path={`shifts[${chosen}].shift.`}
            onChange={(shift) => set(chosen!, shift)}
            onRemove={() => remove(chosen!)}
            onCopy={(to) => {
              // The shift that is open keeps its place in the list only by its day.
              const copied = likeDay(shifts, week, opened.weekday, to);
              setChosen(copied.indexOf(opened));
              onChange(copied);
            }}
          />
        </FloatingAt>
      )}
    </Box>
  );
}

type PieceProps = {
  id: string;
  shift: Shift;
  label: string;
  text: string;
  isChosen: boolean;
  onPress: () => void;
  onMove: (to: Stretch) => void;
  onRemove: () => void;
};

function ShiftPiece({ shift, onMove, ...rest }: PieceProps) {
  return (
    <>
      <Piece {...rest} stretch={stretchOf(shift)} look="shift" onChange={onMove} />
      {(shift.breaks ?? []).map((pause, i) => (
        <Piece key={i} stretch={breakOf(shift, pause)} look="break" label="" isBehind />
      ))}
    </>
  );
}
