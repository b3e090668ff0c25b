import { t } from "@lingui/core/macro";
import { DatePicker, parseDate } from "@ark-ui/react/date-picker";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { month } from "../../theme/recipes/month";
import { locale } from "../format";
import { useToday } from "../today";

const View = chakra(DatePicker.ViewControl);
const Name = chakra(DatePicker.RangeText);
const Before = chakra(DatePicker.PrevTrigger);
const After = chakra(DatePicker.NextTrigger);
const Table = chakra(DatePicker.Table);
const Weekday = chakra(DatePicker.TableHeader);
const Day = chakra(DatePicker.TableCellTrigger);

type Props = { value: string | null | undefined; onChange: (date: string) => void; min?: string; max?: string };

/** A month to take a date from; arrows go from day to day, Page up and down from month to month. */
export function Month({ value, onChange, min, max }: Props) {
  const styles = useSlotRecipe({ recipe: month })();
  const today = useToday();
  return (
    <DatePicker.Root
      inline
      locale={locale()}
      startOfWeek={1}
      defaultFocusedValue={parseDate(value ?? today)}
      value={value ? [parseDate(value)] : []}
      {...(min ? { min: parseDate(min) } : {})}
      {...(max ? { max: parseDate(max) } : {})}
      onValueChange={(details) => {
        const [date] = details.value;
        if (date) onChange(date.toString());
      }}
    >
      <DatePicker.View view="day">
        <DatePicker.Context>
          {(picker) => (
            <>
              <View css={styles["head"]}>
                <Before css={styles["turn"]} aria-label={t`Month before`}>
                  ‹
                </Before>
                <Name css={styles["name"]} aria-live="polite" />
                <After css={styles["turn"]} aria-label={t`Month after`}>
                  ›
                </After>
              </View>
              <Table css={styles["table"]}>
                <DatePicker.TableHead>
                  <DatePicker.TableRow>
                    {picker.weekDays.map((day) => (
                      <Weekday key={day.long} css={styles["weekday"]} aria-label={day.long}>
                        {day.short}
                      </Weekday>
                    ))}
                  </DatePicker.TableRow>
                </DatePicker.TableHead>
                <DatePicker.TableBody>
                  {picker.weeks.map((week) => (
                    <DatePicker.TableRow key={String(week[0])}>
                      {week.map((day) => (
                        <DatePicker.TableCell key={day.toString()} value={day}>
                          <Day css={styles["day"]}>{day.day}</Day>
                        </DatePicker.TableCell>
                      ))}
                    </DatePicker.TableRow>
                  ))}
                </DatePicker.TableBody>
              </Table>
            </>
          )}
        </DatePicker.Context>
      </DatePicker.View>
    </DatePicker.Root>
  );
}
