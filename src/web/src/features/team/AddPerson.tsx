import { useState } from "react";
import { useNavigate } from "react-router";
import { send, type Practitioner } from "../../api/setup";
import { Outcome, useChange } from "../../shared/change";
import { TextField } from "../../shared/Field";
import { Box, Panel, Row } from "../../shared/layout";
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
  mostAppointments: null,
  mostMinutes: null,
  mostPerCategory: [],
  retired: null,
});

/** Adds somebody to the team, and goes on to them. */
export function AddPerson({ tint, onLeave }: { tint: number; onLeave: () => void }) {
  const navigate = useNavigate();
  const [name, setName] = useState("");
  const add = useChange(
    (wanted: string, headers) => send<Practitioner>("POST", "/setup/practitioners", fresh(wanted, tint), headers),
    (made) => void navigate(`/team/${made.id}`),
  );
  return (
    <Panel
      as="form"
      onSubmit={(event) => {
        event.preventDefault();
        add.run(name);
      }}
    >
      <Row alignItems="end">
        <Box flex="1" minW="240px">
          <TextField
            label="Name"
            autoFocus
            value={name}
            error={add.errors["name"]}
            onChange={(e) => setName(e.target.value)}
          />
        </Box>
        <Press type="submit" look="primary" disabled={add.pending}>
          Add
        </Press>
        <Press onClick={onLeave}>Leave it</Press>
      </Row>
      <Outcome change={add} fields={["name"]} />
    </Panel>
  );
}
