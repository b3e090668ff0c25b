import { asks } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { type Rules } from "../../api/setup";

import { SelectField } from "../../shared/Field";
import { NumberField } from "../../shared/inputs";
import { Box, Columns } from "../../shared/layout";

type Props = {
  place: "location" | "category" | "service";
  rules: Rules;
  /** The locations it is about: what holds where nothing is set is told for one of them. */
  locations: readonly { id: string | null; name: string | null }[];
  categoryId?: string | null;
  serviceId?: string | null;
  errors: Record<string, string>;
  onChange: (rules: Rules) => void;
};

const grids = { everyMinutes: "on the clock", backToBack: "back to back", setTimes: "set times" } as const;
const gaps = { off: "gaps do not matter", prefer: "offered last", strict: "not offered" } as const;
const assignments = {
  houseOrder: "house order",
  evenLoad: "even load over the week",
  tightFit: "tight fit, fewest gaps",
} as const;
const choices = { clientMay: "the client may", clientMust: "the client has to", house: "the house does" } as const;
const approvals = { nobody: "nobody", newClients: "new clients", everyone: "everyone" } as const;

/** Rules of online booking at one place. What is left open says what holds instead, and where that comes from. */
export function RulesForm({ place, rules, locations, categoryId, serviceId, errors, onChange }: Props) {
  // What holds where this place says nothing: of a location what is usual, of a category its location's, of a service both.
  const [chosen, setChosen] = useState<string | null>(null);
  const locationId = (locations.find((location) => location.id === chosen) ?? locations[0])?.id;
  const asked = {
    ...(place !== "location" && locationId ? { locationId } : {}),
    ...(place === "service" && categoryId ? { categoryId } : {}),
  };
  const wider = useQuery(asks.rules(asked));
  const set = (change: Partial<Rules>) => onChange({ ...rules, ...change });
  const held = wider.data?.values ?? {};
  const from = (rule: keyof Rules) => {
    if (rules[rule] !== null && rules[rule] !== undefined) return "set here";
    const source = wider.data?.sources[rule];
    return source && source.place !== "usual" ? `from ${source.name}` : "as usual";
  };
  const number = (rule: keyof Rules, label: string, step = 1) => (
    <NumberField
      label={label}
      step={step}
      value={rules[rule] as number | null}
      placeholder={held[rule] == null ? "" : String(held[rule])}
      hint={from(rule)}
      error={errors[`online.${rule}`]}
      onChange={(value) => set({ [rule]: value })}
    />
  );
  const choice = (rule: keyof Rules, label: string, words: Record<string, string>) => (
    <SelectField
      label={label}
      value={(rules[rule] as string | null) ?? ""}
      hint={from(rule)}
      error={errors[`online.${rule}`]}
      onChange={(e) => set({ [rule]: e.target.value || null } as Partial<Rules>)}
    >
      <option value="">
        {words[held[rule] as string] ?? ""} ({place === "location" ? "usual" : "as it is"})
      </option>
      {Object.entries(words).map(([key, name]) => (
        <option key={key} value={key}>
          {name}
        </option>
      ))}
    </SelectField>
  );
  return (
    <Box key={serviceId}>
      {place !== "location" && locations.length > 1 && (
        <Box mb="10px" maxW="300px">
          <SelectField
            label="What is not set here, as it holds at"
            value={locationId ?? ""}
            onChange={(e) => setChosen(e.target.value)}
          >
            {locations.map((location) => (
              <option key={location.id} value={location.id ?? ""}>
                {location.name}
              </option>
            ))}
          </SelectField>
        </Box>
      )}
      <Columns least={215}>
        {choice("grid", "Starts lie", grids)}
        {(rules.grid ?? held.grid) === "everyMinutes" && number("everyMinutes", "Minutes apart", 5)}
        {number("leadMinutes", "Lead time (min)")}
        {number("newLeadMinutes", "Lead time, new clients (min)")}
        {number("horizonDays", "Days ahead")}
        {number("newHorizonDays", "Days ahead, new clients")}
        {choice("gap", "Starts that leave a gap nobody can use", gaps)}
        {(rules.gap ?? held.gap ?? "off") !== "off" && number("shortestGapMinutes", "Shortest useful gap (min)", 5)}
        {choice("choice", "Who chooses the practitioner", choices)}
        {choice("assignment", "If nobody chose", assignments)}
        {choice("approval", "The desk approves", approvals)}
        {number("moveNoticeHours", "Moving up to (hours before)")}
        {number("newMoveNoticeHours", "Moving, new clients (hours before)")}
        {number("cancelNoticeHours", "Cancelling up to (hours before)")}
        {number("newCancelNoticeHours", "Cancelling, new clients (hours before)")}
      </Columns>
    </Box>
  );
}
