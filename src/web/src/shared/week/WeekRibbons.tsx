import { Fragment, useId, useState, type ReactNode } from "react";
import type { Weekday } from "../../api/setup";
import { FloatingAt } from "../Floating";
import { Box } from "../layout";
import { Press } from "../Press";
import { Piece } from "../ribbon/Piece";
import { RibbonRow, Ribbons } from "../ribbon/Ribbons";
import { Strip } from "../ribbon/Strip";
import { room, scaleToDraw, type Stretch } from "../ribbon/stretch";
import { dayNames, weekdaysInOrder } from "./dayNames";

/** Something drawn on a day of a week. */
export type WeekItem = {
  /** Its place in the list it comes from. */
  index: number;
  weekday: Weekday;
  stretch: Stretch;
  label: string;
  text: string;
  /** What is taken out of it. */
  breaks?: Stretch[];
};

type Props = {
  label: string;
  items: WeekItem[];
  /** What stands on a day with nothing on it. */
  empty: string;
  /** What the button that adds something says: "Add a shift on Monday". */
  addLabel: (day: string) => string;
  /** How long something is that was only pressed, not drawn. */
  usual: (weekday: Weekday) => Stretch;
  /** What is dashed behind a day. */
  outlines?: (weekday: Weekday) => Stretch[];
  /** What else has to lie on the scale, so that other weeks have the same. */
  alsoShown?: Stretch[];
  tail?: (weekday: Weekday) => ReactNode;
  /** Adds it, and gives its place in the list. */
  onAdd: (weekday: Weekday, stretch: Stretch) => number;
  onMove: (index: number, to: Stretch) => void;
  onRemove: (index: number) => void;
  panelLabel: (day: string) => string;
  /** The figures of one of them; it may choose another one, or none. */
  panel: (index: number, choose: (index: number | null) => void) => ReactNode;
};

const nothing = () => [];

/** The days of a week as ribbons on which something is drawn, dragged, and opened for its figures. */
export function WeekRibbons({ label, items, empty, outlines = nothing, alsoShown = [], ...props }: Props) {
  const base = useId();
  const [chosen, setChosen] = useState<number | null>(null);
  const [open, setOpen] = useState(false);
  const onDay = (weekday: Weekday) =>
    items.filter((item) => item.weekday === weekday).sort((a, b) => a.stretch.from - b.stretch.from);
  const scale = scaleToDraw([...items.map((item) => item.stretch), ...alsoShown, ...weekdaysInOrder.flatMap(outlines)]);
  const choose = (index: number | null) => {
    setChosen(index);
    setOpen(index !== null);
  };
  const add = (weekday: Weekday, drawn: Stretch | null, at: number) => {
    const others = onDay(weekday).map((item) => item.stretch);
    const free = room(at, others, scale);
    if (!free) return;
    const wanted = drawn ?? props.usual(weekday);
    const [from, until] = [Math.max(wanted.from, free.from), Math.min(wanted.until, free.until)];
    choose(props.onAdd(weekday, until > from ? { from, until } : free));
  };
  const remove = (index: number) => {
    choose(null);
    props.onRemove(index);
  };
  const opened = open ? items.find((item) => item.index === chosen) : undefined;
  return (
    <>
      <Ribbons label={label} scale={scale}>
        {weekdaysInOrder.map((weekday) => {
          const own = onDay(weekday);
          const { short, long } = dayNames(weekday);
          return (
            <RibbonRow
              key={weekday}
              name={short}
              tail={
                <>
                  {props.tail?.(weekday)}{" "}
                  <Press
                    size="small"
                    look="quiet"
                    aria-label={props.addLabel(long)}
                    onClick={() => add(weekday, null, own.at(-1)?.stretch.until ?? props.usual(weekday).from)}
                  >
                    +
                  </Press>
                </>
              }
            >
              <Strip label={`${long}, ${label}`} onDraw={(drawn, at) => add(weekday, drawn, at)}>
                {outlines(weekday).map((stretch) => (
                  <Piece key={stretch.from} stretch={stretch} look="outline" label="" />
                ))}
                {own.length === 0 && (
                  <Box
                    position="absolute"
                    insetStart="2.5"
                    top="2"
                    fontSize="small"
                    color="quiet"
                    bg="woven"
                    zIndex={1}
                    pointerEvents="none"
                  >
                    {empty}
                  </Box>
                )}
                {own.map((item) => (
                  <Fragment key={item.index}>
                    <Piece
                      id={`${base}-${item.index}`}
                      stretch={item.stretch}
                      look="shift"
                      label={`${long}, ${item.label}`}
                      text={item.text}
                      isChosen={chosen === item.index}
                      onPress={() => choose(item.index)}
                      onChange={(to) => {
                        setChosen(item.index);
                        props.onMove(item.index, to);
                      }}
                      onRemove={() => remove(item.index)}
                    />
                    {item.breaks?.map((pause) => (
                      <Piece key={pause.from} stretch={pause} look="break" label="" isBehind />
                    ))}
                  </Fragment>
                ))}
              </Strip>
            </RibbonRow>
          );
        })}
      </Ribbons>
      {opened && (
        <FloatingAt
          label={props.panelLabel(dayNames(opened.weekday).long)}
          anchor={() => document.getElementById(`${base}-${opened.index}`)}
          onClose={() => setOpen(false)}
        >
          {props.panel(opened.index, choose)}
        </FloatingAt>
      )}
    </>
  );
}
