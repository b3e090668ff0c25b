import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { send, type Practitioner } from "../../api/setup";
import { Outcome, useChange } from "../../shared/change";
import { TextField } from "../../shared/Field";
import { Box, Empty, Page, Panel, Row, Tabs } from "../../shared/layout";
import { Face } from "../../shared/pictures";
import { Press } from "../../shared/Press";
import { Sortable } from "../../shared/Sortable";
import { teamTabs, useLocations, usePractitioners, useReadiness } from "./team";

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

/** Everyone who treats clients, in house order. */
export function TeamPage() {
  const people = usePractitioners();
  const locations = useLocations();
  const readiness = useReadiness();
  const navigate = useNavigate();
  const [name, setName] = useState("");
  const [adding, setAdding] = useState(false);
  const add = useChange(
    (wanted: string, headers) =>
      send<Practitioner>("POST", "/setup/practitioners", fresh(wanted, (people.data?.length ?? 0) % 12), headers),
    (made) => void navigate(`/team/${made.id}`),
  );
  const order = useChange((ids: string[], headers) =>
    send<void>("PUT", "/setup/practitioners/order", { ids }, headers),
  );
  const placeOf = (id: string) => locations.data?.find((location) => location.id === id)?.name;
  const issueOf = (id: string | null | undefined) =>
    readiness.data?.issues.find((issue) => issue.mendId === id && issue.serviceId === null);
  const row = (item: Practitioner) => (
    <Row flexWrap="nowrap" py="7px">
      <Face name={item.name ?? ""} photoId={item.photoId} tint={item.tint} />
      <Box flex="1" minW="0">
        <Link to={`/team/${item.id}`}>
          <Box
            as="span"
            fontWeight="700"
            textDecoration="underline"
            textDecorationColor="line"
            textUnderlineOffset="3px"
          >
            {item.name}
          </Box>
        </Link>
        <Box fontSize="14px" color="quiet" whiteSpace="nowrap" overflow="hidden" textOverflow="ellipsis">
          {(item.locationIds ?? []).map(placeOf).filter(Boolean).join(", ") || "no shifts yet"}
          {item.bio && ` · ${item.bio}`}
        </Box>
      </Box>
      <Box fontSize="14px" textAlign="right" flexShrink={0}>
        {item.retired && <Box>left from {item.retired}</Box>}
        {!item.retired && issueOf(item.id) && (
          <Box color="clay" fontWeight="600">
            ! no rota yet
          </Box>
        )}
        {!item.bookableOnline && <Box color="quiet">not online</Box>}
        {item.bookableOnline && !item.acceptsNewClients && <Box color="quiet">returning clients only</Box>}
      </Box>
    </Row>
  );
  const working = (people.data ?? []).filter((person) => !person.retired);
  const left = (people.data ?? []).filter((person) => person.retired);
  return (
    <Page
      title="Team"
      actions={
        !adding && (
          <Press look="primary" onClick={() => setAdding(true)}>
            Add a practitioner
          </Press>
        )
      }
    >
      <Tabs label="Team" items={teamTabs} />
      <Box maxW="820px" display="grid" gap="14px">
        {adding && (
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
              <Press onClick={() => setAdding(false)}>Leave it</Press>
            </Row>
            <Outcome change={add} fields={["name"]} />
          </Panel>
        )}
        {people.data?.length === 0 && !adding && (
          <Empty>
            Nobody is here yet. Add the first practitioner; then say when they work and what they hold. If you have a
            list,{" "}
            <Link to="/setup/import">
              <Box as="span" textDecoration="underline">
                bring it in
              </Box>
            </Link>
            .
          </Empty>
        )}
        {working.length > 0 && (
          <Panel aria-label="House order">
            <Box fontSize="14px" color="quiet" mb="4px">
              House order: who comes first when nothing else decides. Drag to change it.
            </Box>
            <Sortable items={working} idOf={(item) => item.id!} nameOf={(item) => item.name ?? ""} onOrder={order.run}>
              {row}
            </Sortable>
          </Panel>
        )}
        {left.length > 0 && (
          <Panel aria-label="Gone or leaving">
            <Box fontSize="14px" color="quiet" mb="4px">
              Gone or leaving. Their past visits keep them.
            </Box>
            {left.map((item) => (
              <Box key={item.id}>{row(item)}</Box>
            ))}
          </Panel>
        )}
      </Box>
    </Page>
  );
}
