import { stretchOf } from "../../shared/week/stretchOf";
import { useId, useState } from "react";
import type { Weekday } from "../../api/setup";
import { timeAt } from "../../shared/fields/clockText";
import { FloatingAt } from "../../shared/Floating";
import { Box, Section } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { Piece } from "../../shared/ribbon/Piece";
import { RibbonRow, Ribbons } from "../../shared/ribbon/Ribbons";
import { stretchWords } from "../../shared/ribbon/scale";
import { Strip } from "../../shared/ribbon/Strip";
import { room, scaleToDraw, type Stretch } from "../../shared/ribbon/stretch";
import { dayNames, weekdaysInOrder } from "../../shared/week/dayNames";
import { hoursLike, hoursOn, type Hours } from "./hours";
import { HoursPanel } from "./HoursPanel";

const usual: Stretch = { from: 9 * 60, until: 17 * 60 };

type Props = { hours: Hours[]; errors: Record<string, string>; onChange: (hours: Hours[]) => void };

/** When clients may be at a location: a ribbon for each weekday. */
export function OpeningHours({ hours, errors, onChange }: Props) {
  const base = useId();
  const [chosen, setChosen] = useState<number | null>(null);
  const [open, setOpen] = useState(false);
  const scale = scaleToDraw(hours.map(stretchOf));
  const set = (index: number, change: Partial<Hours>) =>
    onChange(hours.map((other, i) => (i === index ? { ...other, ...change } : other)));
  const choose = (index: number) => {
    setChosen(index);
    setOpen(true);
  };
  const add = (weekday: Weekday, drawn: Stretch | null, at: number) => {
    const free = room(at, hoursOn(hours, weekday).map(stretchOf), scale);
    if (!free) return;
    const wanted = drawn ?? usual;
    const [from, until] = [Math.max(wanted.from, free.from), Math.min(wanted.until, free.until)];
    const fitting = until > from ? { from, until } : free;
    onChange([...hours, { weekday, from: timeAt(fitting.from), until: timeAt(fitting.until) }]);
    choose(hours.length);
  };
  const opened = open && chosen !== null ? hours[chosen] : undefined;
  return (
    <Section
      title="Opening hours"
      hint={
        "When clients may be there. They bound what clients book, never when people work. " +
        "Draw them, drag them or their edges, or press them for figures."
      }
    >
      <Ribbons label="Opening hours" scale={scale}>
        {weekdaysInOrder.map((weekday) => {
          const own = hoursOn(hours, weekday);
          const { short, long } = dayNames(weekday);
          return (
            <RibbonRow
              key={weekday}
              name={short}
              tail={
                <Press
                  size="small"
                  look="quiet"
                  aria-label={`Add hours on ${long}`}
                  onClick={() => add(weekday, null, own.at(-1) ? stretchOf(own.at(-1)!).until : usual.from)}
                >
                  +
                </Press>
              }
            >
              <Strip label={long} onDraw={(drawn, at) => add(weekday, drawn, at)}>
                {own.length === 0 && (
                  <Box
                    position="absolute"
                    insetStart="10px"
                    top="8px"
                    fontSize="14px"
                    color="quiet"
                    pointerEvents="none"
                  >
                    closed · press or draw to open
                  </Box>
                )}
                {own.map((item) => (
                  <Piece
                    key={item.index}
                    id={`${base}-${item.index}`}
                    stretch={stretchOf(item)}
                    look="shift"
                    label={`${long}, open`}
                    text={stretchWords(stretchOf(item))}
                    isChosen={chosen === item.index}
                    onPress={() => choose(item.index)}
                    onChange={(to) => {
                      setChosen(item.index);
                      set(item.index, { from: timeAt(to.from), until: timeAt(to.until) });
                    }}
                    onRemove={() => onChange(hours.filter((_, i) => i !== item.index))}
                  />
                ))}
              </Strip>
            </RibbonRow>
          );
        })}
      </Ribbons>
      {Object.entries(errors)
        .filter(([field]) => field.startsWith("opening"))
        .map(([field, text]) => (
          <Box key={field} role="alert" color="clay" fontSize="14px">
            {text}
          </Box>
        ))}
      {opened && (
        <FloatingAt
          label={`Hours on ${dayNames(opened.weekday).long}`}
          anchor={() => document.getElementById(`${base}-${chosen}`)}
          onClose={() => setOpen(false)}
        >
          <HoursPanel
            hours={opened}
            errors={errors}
            path={`opening[${chosen}].`}
            onChange={(change) => set(chosen!, change)}
            onRemove={() => {
              setChosen(null);
              setOpen(false);
              onChange(hours.filter((_, i) => i !== chosen));
            }}
            onCopy={(to) => {
              const copied = hoursLike(hours, opened.weekday, to);
              setChosen(copied.indexOf(opened));
              onChange(copied);
            }}
          />
        </FloatingAt>
      )}
    </Section>
  );
}
