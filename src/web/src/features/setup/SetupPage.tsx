import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { ifMatch, read, send, type Account, type Business, type HistoryRow, type Issue } from "../../api/setup";
import { Outcome, useChange } from "../../shared/change";
import { useDraft } from "../../shared/draft";
import { AreaField, SelectField, TextField } from "../../shared/Field";
import { moment } from "../../shared/format";
import { CheckField, PictureField } from "../../shared/inputs";
import { Box, Columns, Empty, Page, Panel, Row, Section, Stack, Table, Tabs } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { usePractitioners, useReadiness } from "../team/team";
import { LocationsTab } from "./LocationsTab";

const tabs: [string, string][] = [
  ["/setup", "Ready?"],
  ["/setup/business", "Business"],
  ["/setup/locations", "Locations and hours"],
  ["/setup/accounts", "Sign-ins"],
  ["/setup/history", "History"],
];

/** What the whole business has in common. */
export function SetupPage() {
  const { part } = useParams();
  return (
    <Page title="Setup">
      <Tabs label="Setup" items={tabs} />
      {part === "business" ? (
        <BusinessTab />
      ) : part === "locations" ? (
        <LocationsTab />
      ) : part === "accounts" ? (
        <AccountsTab />
      ) : part === "history" ? (
        <HistoryTab />
      ) : (
        <ReadyTab />
      )}
    </Page>
  );
}

/** Where an issue is mended. */
export function mendPath(issue: Issue): string {
  switch (issue.mend) {
    case "locations":
    case "hours":
    case "rules":
    case "location":
      return "/setup/locations";
    case "practitioners":
      return "/team";
    case "rota":
      return `/team/${issue.mendId}/rota`;
    case "practitioner":
      return `/team/${issue.mendId}/${issue.reasons.some((one) => one.code === "offShift") ? "rota" : issue.reasons.some((one) => one.code.startsWith("practitioner") && one.code !== "practitionerNotOnline") ? "calendar" : ""}`;
    case "qualifications":
      return "/team/qualifications";
    case "room":
    case "equipment":
      return "/rooms";
    case "services":
      return "/services";
    default:
      return issue.serviceId ? `/services/${issue.serviceId}` : "/services";
  }
}

function ReadyTab() {
  const readiness = useReadiness();
  if (!readiness.data) return <Box aria-busy="true">Asking what can be booked …</Box>;
  const { issues, bookable, pageOpen } = readiness.data;
  const list = (title: string, all: Issue[]) =>
    all.length > 0 && (
      <Section title={title}>
        {all.map((issue) => (
          <Row
            key={issue.text}
            borderTopWidth="1px"
            borderColor="line"
            py="8px"
            justifyContent="space-between"
            flexWrap="nowrap"
            alignItems="start"
          >
            <Box minW="0">{issue.text}</Box>
            <Row flexShrink={0} gap="12px">
              {issue.serviceId && (
                <Link to={`/why-not?service=${issue.serviceId}&location=${issue.locationId}`}>
                  <Box as="span" textDecoration="underline">
                    Why not?
                  </Box>
                </Link>
              )}
              <Link to={mendPath(issue)}>
                <Box as="span" fontWeight="700" textDecoration="underline">
                  Mend it
                </Box>
              </Link>
            </Row>
          </Row>
        ))}
      </Section>
    );
  return (
    <Stack maxW="900px" pb="30px">
      <Panel borderLeftWidth="5px" borderLeftColor={pageOpen ? "reed" : "clay"}>
        <Box fontSize="17px" fontWeight="700">
          {pageOpen
            ? `${bookable} ${bookable === 1 ? "service" : "services"} can be booked online now.`
            : "Nothing can be booked online yet."}
        </Box>
        <Box>
          {pageOpen ? (
            <>
              The booking page is at{" "}
              <a href="/book" target="_blank" rel="noreferrer" style={{ textDecoration: "underline" }}>
                {window.location.origin}/book
              </a>
              .
            </>
          ) : (
            "Mend what is listed here, from the top."
          )}
        </Box>
      </Panel>
      {list(
        "Cannot be booked",
        issues.filter((one) => one.stops),
      )}
      {list(
        "Will stop being bookable",
        issues.filter((one) => !one.stops),
      )}
      {issues.length === 0 && <Empty>Every service can be booked as far ahead as its rules allow.</Empty>}
    </Stack>
  );
}

function BusinessTab() {
  const business = useQuery({ queryKey: ["business"], queryFn: () => read<Business>("/setup/business") });
  return business.data ? <BusinessForm business={business.data} /> : null;
}

function BusinessForm({ business }: { business: Business }) {
  const { draft, base, set, keep } = useDraft(business);
  const save = useChange(
    (wanted: Business, headers) =>
      send<Business>("PUT", "/setup/business", wanted, { ...headers, ...ifMatch(base.version) }),
    keep,
  );
  const { errors } = save;
  const rates = draft.taxRates ?? [];
  return (
    <Box
      as="form"
      onSubmit={(event) => {
        event.preventDefault();
        save.run(draft);
      }}
      display="grid"
      gap="14px"
      maxW="900px"
      pb="30px"
    >
      <Section title="The business">
        <Columns least={240}>
          <TextField
            label="Name clients read"
            value={draft.name ?? ""}
            error={errors["name"]}
            onChange={(e) => set({ name: e.target.value })}
          />
          <TextField
            label="Telephone"
            value={draft.phone ?? ""}
            error={errors["phone"]}
            onChange={(e) => set({ phone: e.target.value })}
          />
          <TextField
            label="Currency"
            value={draft.currency ?? ""}
            maxLength={3}
            hint="three letters, like EUR"
            error={errors["currency"]}
            onChange={(e) => set({ currency: e.target.value.toUpperCase() })}
          />
          <TextField
            label="Country"
            value={draft.region ?? ""}
            maxLength={2}
            hint="two letters, like IE"
            error={errors["region"]}
            onChange={(e) => set({ region: e.target.value.toUpperCase() })}
          />
          <TextField
            label="Language and country of dates"
            value={draft.locale ?? ""}
            hint="like en-IE"
            error={errors["locale"]}
            onChange={(e) => set({ locale: e.target.value })}
          />
        </Columns>
        <Box mt="12px">
          <AreaField
            label="A few words for clients"
            value={draft.about ?? ""}
            error={errors["about"]}
            onChange={(e) => set({ about: e.target.value })}
          />
        </Box>
      </Section>
      <Section title="Look of the booking page">
        <Columns least={240}>
          <PictureField label="Logo" id={draft.logoId} onChange={(logoId) => set({ logoId })} />
          <TextField
            label="Main colour, of buttons"
            type="color"
            value={draft.colourMain ?? "#17594A"}
            error={errors["colourMain"]}
            onChange={(e) => set({ colourMain: e.target.value.toUpperCase() })}
          />
          <TextField
            label="Accent colour, of what is chosen"
            type="color"
            value={draft.colourAccent ?? "#F4B400"}
            error={errors["colourAccent"]}
            onChange={(e) => set({ colourAccent: e.target.value.toUpperCase() })}
          />
          <Row aria-hidden>
            <Box
              px="14px"
              py="9px"
              borderRadius="card"
              fontWeight="600"
              style={{ background: draft.colourMain ?? "", color: "#fff" }}
            >
              Book 10:15
            </Box>
            <Box
              px="14px"
              py="9px"
              borderRadius="card"
              style={{ background: draft.colourAccent ?? "", color: "#1D2B26" }}
            >
              10:15
            </Box>
          </Row>
        </Columns>
      </Section>
      <Section title="Tax rates" hint="Prices include tax.">
        {rates.map((rate, i) => (
          <Row key={i} alignItems="end" mb="8px">
            <Box w="240px">
              <TextField
                label="Name"
                value={rate.name ?? ""}
                error={errors[`taxRates[${i}].name`]}
                onChange={(e) =>
                  set({ taxRates: rates.map((one, j) => (j === i ? { ...one, name: e.target.value } : one)) })
                }
              />
            </Box>
            <Box w="120px">
              <TextField
                label="Percent"
                type="number"
                step="0.01"
                min="0"
                max="100"
                value={rate.basisPoints / 100}
                error={errors[`taxRates[${i}].basisPoints`]}
                onChange={(e) =>
                  set({
                    taxRates: rates.map((one, j) =>
                      j === i ? { ...one, basisPoints: Math.round(Number(e.target.value) * 100) } : one,
                    ),
                  })
                }
              />
            </Box>
            <Press look="quiet" onClick={() => set({ taxRates: rates.filter((_, j) => j !== i) })}>
              Take out
            </Press>
          </Row>
        ))}
        <Press size="small" onClick={() => set({ taxRates: [...rates, { id: null, name: "", basisPoints: 0 }] })}>
          Add a rate
        </Press>
      </Section>
      <Row position="sticky" bottom="-18px" bg="paper" pt="10px" pb="24px" mb="-18px">
        <Press type="submit" look="primary" disabled={save.pending}>
          Save
        </Press>
        <Outcome
          change={save}
          fields={[
            "name",
            "about",
            "phone",
            "currency",
            "region",
            "locale",
            "colourMain",
            "colourAccent",
            ...rates.flatMap((_, i) => [`taxRates[${i}].name`, `taxRates[${i}].basisPoints`]),
          ]}
        />
      </Row>
    </Box>
  );
}

const roles = ["Owner", "Manager", "Desk", "Practitioner", "Bookkeeper"];

function AccountsTab() {
  const accounts = useQuery({ queryKey: ["accounts"], queryFn: () => read<Account[]>("/setup/accounts") });
  const people = usePractitioners();
  const [chosen, setChosen] = useState<string | null>(null);
  const fresh: Account = {
    id: null,
    email: "",
    name: "",
    role: "Desk",
    practitionerId: null,
    editsOwnShifts: false,
    signedOff: false,
    version: 0,
  };
  const one = chosen === "new" ? fresh : accounts.data?.find((other) => other.id === chosen);
  return (
    <Stack maxW="900px" pb="30px">
      <Section
        title="Who may sign in"
        actions={
          <Press size="small" onClick={() => setChosen("new")}>
            Add somebody
          </Press>
        }
      >
        <Table>
          <thead>
            <tr>
              <th>Name</th>
              <th>E-mail address</th>
              <th>Role</th>
              <th>
                <Box srOnly>Change</Box>
              </th>
            </tr>
          </thead>
          <tbody>
            {accounts.data?.map((other) => (
              <tr key={other.id}>
                <td>{other.name}</td>
                <td>{other.email}</td>
                <td>
                  {other.role}
                  {other.signedOff && " (closed)"}
                  {other.practitionerId &&
                    ` · ${people.data?.find((person) => person.id === other.practitionerId)?.name ?? ""}`}
                </td>
                <td>
                  <Press
                    size="small"
                    look="quiet"
                    aria-label={`Change ${other.name}`}
                    onClick={() => setChosen(other.id!)}
                  >
                    Change
                  </Press>
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </Section>
      {one && <AccountForm key={chosen} one={one} onMade={setChosen} />}
    </Stack>
  );
}

function AccountForm({ one, onMade }: { one: Account; onMade: (id: string) => void }) {
  const people = usePractitioners();
  const { draft, base, set, keep } = useDraft(one);
  const [made, setMade] = useState<string | null>(null);
  const save = useChange(
    (wanted: Account, headers) =>
      one.id
        ? send<Account>("PUT", `/setup/accounts/${one.id}`, wanted, { ...headers, ...ifMatch(base.version) })
        : send<Account>("POST", "/setup/accounts", wanted, headers),
    (made) => {
      keep(made);
      onMade(made.id!);
    },
  );
  const link = useChange(
    (_: null, headers) =>
      send<{ path: string; expiresAt: string }>("POST", `/setup/accounts/${one.id}/link`, {}, headers),
    (made) => setMade(made.path),
  );
  return (
    <Section title={one.name || "Somebody new"}>
      <Stack
        as="form"
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          save.run(draft);
        }}
      >
        <Columns>
          <TextField
            label="Name"
            value={draft.name ?? ""}
            autoFocus={!one.id}
            error={save.errors["name"]}
            onChange={(e) => set({ name: e.target.value })}
          />
          <TextField
            label="E-mail address"
            type="email"
            value={draft.email ?? ""}
            error={save.errors["email"]}
            onChange={(e) => set({ email: e.target.value })}
          />
          <SelectField
            label="Role"
            value={draft.role ?? ""}
            error={save.errors["role"]}
            onChange={(e) => set({ role: e.target.value })}
          >
            {roles.map((role) => (
              <option key={role}>{role}</option>
            ))}
          </SelectField>
          <SelectField
            label="Is the practitioner"
            value={draft.practitionerId ?? ""}
            error={save.errors["practitionerId"]}
            onChange={(e) => set({ practitionerId: e.target.value || null })}
          >
            <option value="">nobody of the team</option>
            {people.data?.map((person) => (
              <option key={person.id} value={person.id!}>
                {person.name}
              </option>
            ))}
          </SelectField>
        </Columns>
        {draft.role === "Practitioner" && (
          <CheckField
            label="May change her own shifts and blocked time"
            checked={draft.editsOwnShifts}
            onChange={(editsOwnShifts) => set({ editsOwnShifts })}
          />
        )}
        {one.id && (
          <CheckField label="Account closed" checked={draft.signedOff} onChange={(signedOff) => set({ signedOff })} />
        )}
        <Row>
          <Press type="submit" look="primary" disabled={save.pending}>
            {one.id ? "Save" : "Add"}
          </Press>
          {one.id && (
            <Press disabled={link.pending} onClick={() => link.run(null)}>
              Make a sign-in link
            </Press>
          )}
          <Outcome change={save} fields={["name", "email", "role", "practitionerId"]} />
          <Outcome change={link} saved="" />
        </Row>
        {made && (
          <Box bg="glow" borderRadius="card" p="10px">
            Pass this on to {one.name}; it is good once, for seven days, and is not shown again:
            <Box fontWeight="700" overflowWrap="anywhere">
              {window.location.origin + made}
            </Box>
          </Box>
        )}
      </Stack>
    </Section>
  );
}

function HistoryTab() {
  const [before, setBefore] = useState<(number | string)[]>([]);
  const at = before.at(-1);
  const rows = useQuery({
    queryKey: ["setup-history", at ?? null],
    queryFn: () => read<HistoryRow[]>(`/setup/history${at ? `?before=${at}` : ""}`),
  });
  const [open, setOpen] = useState<number | string | null>(null);
  return (
    <Stack maxW="980px" pb="30px">
      {rows.data?.length === 0 && <Empty>Nothing was changed yet.</Empty>}
      {rows.data && rows.data.length > 0 && (
        <Panel>
          <Table
            tableLayout="fixed"
            css={{
              "& th:nth-of-type(1)": { w: "130px" },
              "& th:nth-of-type(2)": { w: "140px" },
              "& th:nth-of-type(3)": { w: "200px" },
            }}
          >
            <thead>
              <tr>
                <th>When</th>
                <th>Who</th>
                <th>What</th>
                <th>Before and after</th>
              </tr>
            </thead>
            <tbody>
              {rows.data.map((row) => (
                <tr key={row.id}>
                  <td style={{ whiteSpace: "nowrap" }}>
                    {moment(row.at, Intl.DateTimeFormat().resolvedOptions().timeZone)}
                  </td>
                  <td>{row.actor}</td>
                  <td>
                    {row.subjectKind}: {row.action}
                  </td>
                  <td>
                    {open === row.id ? (
                      <Differences before={row.before} after={row.after} />
                    ) : (
                      <Press size="small" look="quiet" onClick={() => setOpen(row.id)}>
                        Show
                      </Press>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
          <Row mt="10px">
            {before.length > 0 && <Press onClick={() => setBefore(before.slice(0, -1))}>Newer</Press>}
            {rows.data.length === 50 && (
              <Press onClick={() => setBefore([...before, rows.data.at(-1)!.id])}>Older</Press>
            )}
          </Row>
        </Panel>
      )}
    </Stack>
  );
}

/** Only what differs, field by field. */
function Differences({ before, after }: { before: string | null | undefined; after: string | null | undefined }) {
  const parse = (text: string | null | undefined) => {
    const value: unknown = text ? JSON.parse(text) : {};
    return (typeof value === "object" && value !== null && !Array.isArray(value) ? value : { value }) as Record<
      string,
      unknown
    >;
  };
  const was = parse(before),
    is = parse(after);
  const lower = (record: Record<string, unknown>) =>
    Object.fromEntries(Object.entries(record).map(([key, value]) => [key.toLowerCase(), value]));
  const a = lower(was),
    b = lower(is);
  const keys = [...new Set([...Object.keys(a), ...Object.keys(b)])].filter(
    (key) => !/^(id|version)$|id$/.test(key) && JSON.stringify(a[key] ?? null) !== JSON.stringify(b[key] ?? null),
  );
  const words = (value: unknown) =>
    value === undefined || value === null || value === ""
      ? "–"
      : typeof value === "string"
        ? value
        : JSON.stringify(value).slice(0, 160);
  return (
    <Box fontSize="14px" overflowWrap="anywhere">
      {keys.length === 0 && "No difference."}
      {keys.map((key) => (
        <Box key={key}>
          <b>{key}</b>: {before ? `${words(a[key])} → ` : ""}
          {words(b[key])}
        </Box>
      ))}
    </Box>
  );
}
