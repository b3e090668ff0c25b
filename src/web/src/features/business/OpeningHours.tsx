import { t } from "@lingui/core/macro";
import { timeAt } from "../../shared/fields/clockText";
import { Box, Section } from "../../shared/layout";
import { stretchWords } from "../../shared/ribbon/scale";
import type { Stretch } from "../../shared/ribbon/stretch";
import { stretchOf } from "../../shared/week/stretchOf";
import { WeekRibbons } from "../../shared/week/WeekRibbons";
import { hoursLike, type Hours } from "./hours";
import { HoursPanel } from "./HoursPanel";

const usual: Stretch = { from: 9 * 60, until: 17 * 60 };
const timesOf = ({ from, until }: Stretch) => ({ from: timeAt(from), until: timeAt(until) });

type Props = { hours: Hours[]; errors: Record<string, string>; onChange: (hours: Hours[]) => void };

/** When clients may be at a location: a ribbon for each weekday. */
export function OpeningHours({ hours, errors, onChange }: Props) {
  const set = (index: number, change: Partial<Hours>) =>
    onChange(hours.map((other, i) => (i === index ? { ...other, ...change } : other)));
  const remove = (index: number) => onChange(hours.filter((_, i) => i !== index));
  return (
    <Section
      title={t`Opening hours`}
      hint={
        t`When clients may be there. They bound what clients book, never when people work. ` +
        t`Draw them, drag them or their edges, or press them for figures.`
      }
    >
      <WeekRibbons
        label={t`Opening hours`}
        items={hours.map((item, index) => ({
          index,
          weekday: item.weekday,
          stretch: stretchOf(item),
          label: t`open`,
          text: stretchWords(stretchOf(item)),
        }))}
        empty={t`closed · press or draw to open`}
        addLabel={(day) => t`Add hours on ${day}`}
        usual={() => usual}
        onAdd={(weekday, stretch) => {
          onChange([...hours, { weekday, ...timesOf(stretch) }]);
          return hours.length;
        }}
        onMove={(index, to) => set(index, timesOf(to))}
        onRemove={remove}
        panelLabel={(day) => t`Hours on ${day}`}
        panel={(index, choose) => {
          const opened = hours[index]!;
          return (
            <HoursPanel
              hours={opened}
              errors={errors}
              path={`opening[${index}].`}
              onChange={(change) => set(index, change)}
              onRemove={() => {
                choose(null);
                remove(index);
              }}
              onCopy={(to) => {
                const copied = hoursLike(hours, opened.weekday, to);
                choose(copied.indexOf(opened));
                onChange(copied);
              }}
            />
          );
        }}
      />
      {Object.entries(errors)
        .filter(([field]) => field.startsWith("opening"))
        .map(([field, text]) => (
          <Box key={field} role="alert" color="clay" fontSize="small">
            {text}
          </Box>
        ))}
    </Section>
  );
}
