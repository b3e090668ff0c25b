import { t } from "@lingui/core/macro";
import { TextField } from "../../../shared/Field";
import { alongWords } from "./lines";

/** The names of those who come along. */
export function AlongFields({
  along,
  people,
  errors,
  onPeople,
}: {
  along: number[];
  people: string[];
  errors: Record<string, string>;
  onPeople: (people: string[]) => void;
}) {
  return along.map((person) => (
    <TextField
      key={person}
      label={along.length === 1 ? t`Who comes along` : t`Name of ${alongWords(person)}`}
      autoComplete="off"
      value={people[person - 1] ?? ""}
      error={errors[`people[${person - 1}].name`]}
      onChange={(event) =>
        onPeople(along.map((one) => (one === person ? event.target.value : (people[one - 1] ?? ""))))
      }
    />
  ));
}
