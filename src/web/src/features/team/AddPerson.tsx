import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { useNavigate } from "react-router";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";

import { Outcome, useChange } from "../../shared/change";
import { TextField } from "../../shared/Field";
import { Box, Panel, Row, asForm } from "../../shared/layout";
import { Press } from "../../shared/Press";

/** A practitioner as they begin: bookable online, without limits. */
const fresh = (name: string, tint: number) => ({
  name,
  bio: "",
  phone: null,
  email: null,
  languages: [],
  tint,
  photoId: null,
  bookableOnline: true,
  acceptsNewClients: true,
  needsApproval: false,
  mostAppointments: null,
  mostMinutes: null,
  mostPerCategory: [],
  retired: null,
  id: null,
  version: 0,
  attention: 1,
});

/** Adds somebody to the team, and goes on to them. */
export function AddPerson({ tint, onLeave }: { tint: number; onLeave: () => void }) {
  const navigate = useNavigate();
  const [name, setName] = useState("");
  const add = useChange(
    (wanted: string, headers) =>
      answerOf(staff.POST("/api/v1/setup/practitioners", { headers, body: fresh(wanted, tint) })),
    (made) => void navigate(`/team/${made.id}`),
  );
  return (
    <Panel
      {...asForm}
      onSubmit={(event) => {
        event.preventDefault();
        add.run(name);
      }}
    >
      <Row alignItems="end">
        <Box flex="1" minW="60">
          <TextField
            label={t`Name`}
            autoFocus
            value={name}
            error={add.errors["name"]}
            onChange={(e) => setName(e.target.value)}
          />
        </Box>
        <Press type="submit" look="primary" disabled={add.pending}>
          <Trans>Add</Trans>
        </Press>
        <Press onClick={onLeave}>
          <Trans>Leave it</Trans>
        </Press>
      </Row>
      <Outcome change={add} fields={["name"]} />
    </Panel>
  );
}
