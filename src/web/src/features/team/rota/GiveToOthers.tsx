import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { staff } from "../../../api/staff";
import { answerOf } from "../../../shared/problem";
import { useState } from "react";
import { type Practitioner } from "../../../api/setup";
import { Outcome, useChange } from "../../../shared/change";
import { longDate } from "../../../shared/format";
import { CheckField } from "../../../shared/fields/CheckField";
import { Box, Row } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import type { Person } from "../../calendar/CalendarTab";

type Props = { from: string; practitioner: Person; people: Practitioner[] };

/** Gives a rota to others too. */
export function GiveToOthers({ from, practitioner, people }: Props) {
  const [open, setOpen] = useState(false);
  const [to, setTo] = useState<string[]>([]);
  const copy = useChange(
    (ids: string[], headers) =>
      answerOf(
        staff.POST("/api/v1/setup/practitioners/{id}/rotas/{from}/copy", {
          params: { path: { id: practitioner.id!, from } },
          headers,
          body: { to: ids },
        }),
      ),
    () => setTo([]),
  );
  const others = people.filter((person) => person.id !== practitioner.id && !person.retired);
  if (others.length === 0) return null;
  return (
    <Box borderTopWidth="line" borderColor="line" pt="2.5">
      <Press size="small" look="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
        <Trans>Give this rota to others too</Trans>
      </Press>
      {open && (
        <Box>
          <Box fontSize="small" color="quiet">
            <Trans>From {longDate(from)} on they work the same shifts.</Trans>
          </Box>
          <Row>
            {others.map((other) => (
              <CheckField
                key={other.id}
                label={other.name}
                checked={to.includes(other.id!)}
                onChange={(on) => setTo(on ? [...to, other.id!] : to.filter((id) => id !== other.id))}
              />
            ))}
          </Row>
          <Press mt="1.5" disabled={to.length === 0 || copy.pending} onClick={() => copy.run(to)}>
            <Trans>Give it to {to.length === 1 ? t`one` : to.length}</Trans>
          </Press>
          <Outcome change={copy} saved={t`They have it.`} />
        </Box>
      )}
    </Box>
  );
}
