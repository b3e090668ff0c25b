import { t } from "@lingui/core/macro";
import type { Anyway as AnywayAnswer } from "../../api/staff";
import { andWords, clock, wallTime } from "../../shared/format";
import { Box } from "../../shared/layout";
import { Press } from "../../shared/Press";
import type { Chosen } from "./fits";

function anywayWith({ practitioner, rooms }: AnywayProps["anyway"]) {
  const where = andWords(rooms);
  return where
    ? t`It can be booked all the same, with ${practitioner} in ${where}, over this:`
    : t`It can be booked all the same, with ${practitioner}, over this:`;
}

function anywayWords(at: string, chosen: boolean, overbooks: boolean) {
  if (overbooks) return chosen ? t`Chosen: overbook ${at} all the same` : t`Overbook ${at} all the same`;
  return chosen ? t`Chosen: take ${at} all the same` : t`Take ${at} all the same`;
}

type AnywayProps = {
  anyway: AnywayAnswer;
  start: string;
  zone: string;
  chosen: boolean;
  onChoose: (start: Chosen) => void;
};

/** A time that fits only over something: what it would go over, to be read before it is chosen. */
export function Anyway({ anyway, start, zone, chosen, onChoose }: AnywayProps) {
  const said = new Set(anyway.warnings.map((warning) => warning.text));
  return (
    <Box borderTopWidth="line" borderColor="line" mt="1.5" pt="1.5" display="grid" gap="1.5" justifyItems="start">
      <Box>
        {anywayWith(anyway)}
        <Box as="ul" pl="4" listStyleType="disc">
          {[...said].map((text) => (
            <li key={text}>{text}</li>
          ))}
        </Box>
      </Box>
      <Press
        size="small"
        look={anyway.overbooks ? "danger" : "plain"}
        aria-pressed={chosen}
        onClick={() =>
          onChoose({
            start,
            end: anyway.end,
            clock: wallTime(start, zone),
            practitionerId: anyway.practitionerId,
            practitioner: anyway.practitioner,
            rooms: anyway.rooms,
            price: anyway.price,
            onGrid: false,
            outsideOpening: false,
            accept: anyway.accept,
          })
        }
      >
        {anywayWords(clock(start, zone), chosen, anyway.overbooks)}
      </Press>
    </Box>
  );
}
