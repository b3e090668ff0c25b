import { t } from "@lingui/core/macro";
import type { Shift, Weekday } from "../../../api/setup";
import { timeAt } from "../../../shared/fields/clockText";
import { Box } from "../../../shared/layout";
import { stretchWords } from "../../../shared/ribbon/scale";
import { useDeskSetup } from "../../../shared/today";
import { stretchOf } from "../../../shared/week/stretchOf";
import { WeekRibbons } from "../../../shared/week/WeekRibbons";
import { breakOf, dayOf, hoursWords, likeDay, minutesOf, movedTo, type RotaShift } from "./rotaDraft";
import { ShiftPanel } from "./ShiftPanel";

type Props = {
  title: string;
  week: number;
  shifts: RotaShift[];
  errors: Record<string, string>;
  onChange: (shifts: RotaShift[]) => void;
};

/** One week of a rota as seven ribbons. */
export function RotaWeek({ title, week, shifts, errors, onChange }: Props) {
  const { locations } = useDeskSetup();
  const home = shifts[0]?.shift.locationId ?? locations[0]?.id ?? "";
  const opening = locations.find((location) => location.id === home)?.opening ?? [];
  const hoursOn = (weekday: Weekday) => opening.filter((hours) => hours.weekday === weekday).map(stretchOf);
  const set = (index: number, shift: Shift) =>
    onChange(shifts.map((item, i) => (i === index ? { ...item, shift } : item)));
  const remove = (index: number) => onChange(shifts.filter((_, i) => i !== index));
  const placeOf = (shift: Shift) =>
    locations.length > 1 ? ` ${locations.find((location) => location.id === shift.locationId)?.name ?? ""}` : "";
  const worked = (weekday: Weekday) => {
    const minutes = dayOf(shifts, week, weekday).reduce((sum, item) => sum + minutesOf(item.shift), 0);
    return minutes > 0 ? hoursWords(minutes) : t`off`;
  };
  return (
    <Box mb="4">
      <Box as="h2" fontSize="text" mb="0.5">
        {title}
      </Box>
      <WeekRibbons
        label={title}
        items={shifts.flatMap(({ week: of, weekday, shift }, index) =>
          of !== week
            ? []
            : {
                index,
                weekday,
                stretch: stretchOf(shift),
                label: t`shift`,
                text: `${stretchWords(stretchOf(shift))}${placeOf(shift)}`,
                breaks: (shift.breaks ?? []).map((pause) => breakOf(shift, pause)),
              },
        )}
        empty={t`off · press or draw to add a shift`}
        addLabel={(day) => t`Add a shift on ${day}`}
        usual={(weekday) => hoursOn(weekday)[0] ?? { from: 9 * 60, until: 17 * 60 }}
        outlines={hoursOn}
        alsoShown={shifts.map((item) => stretchOf(item.shift))}
        tail={worked}
        onAdd={(weekday, { from, until }) => {
          const shift = { locationId: home, from: timeAt(from), until: timeAt(until), breaks: [] };
          onChange([...shifts, { week, weekday, shift }]);
          return shifts.length;
        }}
        onMove={(index, to) => set(index, movedTo(shifts[index]!.shift, to))}
        onRemove={remove}
        panelLabel={(day) => t`Shift on ${day}`}
        panel={(index, choose) => {
          const opened = shifts[index]!;
          return (
            <ShiftPanel
              shift={opened.shift}
              weekday={opened.weekday}
              errors={errors}
              path={`shifts[${index}].shift.`}
              onChange={(shift) => set(index, shift)}
              onRemove={() => {
                choose(null);
                remove(index);
              }}
              onCopy={(to) => {
                const copied = likeDay(shifts, week, opened.weekday, to);
                choose(copied.indexOf(opened));
                onChange(copied);
              }}
            />
          );
        }}
      />
    </Box>
  );
}
