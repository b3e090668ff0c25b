import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { keepers } from "../../api/keepers";
import { asks } from "../../api/queries";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { type Account } from "../../api/setup";
import { staff } from "../../api/staff";
import { askAnew } from "../../shared/askAnew";
import { answerOf } from "../../shared/problem";

import { Outcome, useChange } from "../../shared/change";
import { SelectField, TextField } from "../../shared/Field";
import { CheckField } from "../../shared/fields/CheckField";
import { Box, Columns, Row, Section, Stack, Table, asForm } from "../../shared/layout";
import { adding, useOpened } from "../../shared/opened";
import { useKept } from "../../shared/kept";
import { Press } from "../../shared/Press";
import { usePractitioners } from "../team/team";
import { roleNames } from "../../shared/roles";

/** Who may sign in, and as what. */
export function AccountsTab() {
  const accounts = useQuery(asks.accounts());
  const people = usePractitioners();
  const opened = useOpened();
  const fresh: Account = {
    id: null,
    email: "",
    name: "",
    role: "Desk",
    practitionerId: null,
    editsOwnShifts: false,
    keepsOwnVisits: false,
    mayOverbook: false,
    seesContacts: false,
    hasCode: false,
    signedOff: false,
    version: 0,
  };
  const item = opened.id === adding ? fresh : accounts.data?.find((other) => other.id === opened.id);
  return (
    <Stack maxW="225" pb="7">
      <Section
        title={t`Who may sign in`}
        actions={
          <Press size="small" onClick={() => opened.open(adding)}>
            <Trans>Add somebody</Trans>
          </Press>
        }
      >
        <Box overflowX="auto" position="relative">
          <Table>
            <thead>
              <tr>
                <th>
                  <Trans>Name</Trans>
                </th>
                <th>
                  <Trans>E-mail address</Trans>
                </th>
                <th>
                  <Trans>Role</Trans>
                </th>
                <th>
                  <Box srOnly>
                    <Trans>Change</Trans>
                  </Box>
                </th>
              </tr>
            </thead>
            <tbody>
              {accounts.data?.map((other) => (
                <tr key={other.id}>
                  <td>{other.name}</td>
                  <td>{other.email}</td>
                  <td>
                    {roleNames[other.role ?? ""]}
                    {other.signedOff && ` (${t`closed`})`}
                    {other.practitionerId &&
                      ` · ${people.data?.find((person) => person.id === other.practitionerId)?.name ?? ""}`}
                  </td>
                  <td>
                    <Press
                      size="small"
                      look="quiet"
                      aria-label={t`Change ${other.name ?? ""}`}
                      onClick={() => opened.open(other.id!)}
                    >
                      <Trans>Change</Trans>
                    </Press>
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        </Box>
      </Section>
      {item && <AccountForm key={item.id ?? "new"} account={item} onMade={opened.replace} />}
    </Stack>
  );
}

function AccountForm({ account, onMade }: { account: Account; onMade: (id: string) => void }) {
  const people = usePractitioners();
  const { draft, set, save, submit } = useKept(account, keepers.account, onMade);
  const [made, setMade] = useState<string | null>(null);
  const link = useChange(
    (_: null, headers) =>
      answerOf(staff.POST("/api/v1/setup/accounts/{id}/link", { params: { path: { id: account.id! } }, headers })),
    (made) => setMade(made.path),
  );
  const queries = useQueryClient();
  const forget = useChange(
    (_: null, headers) =>
      answerOf(
        staff.DELETE("/api/v1/setup/accounts/{id}/second-factor", { params: { path: { id: account.id! } }, headers }),
      ),
    () => void askAnew(queries, { queryKey: asks.accounts().queryKey }),
  );
  return (
    <Section title={account.name || t`Somebody new`}>
      <Stack {...asForm} onSubmit={submit}>
        <Columns>
          <TextField
            label={t`Name`}
            value={draft.name ?? ""}
            autoFocus={!account.id}
            error={save.errors["name"]}
            onChange={(e) => set({ name: e.target.value })}
          />
          <TextField
            label={t`E-mail address`}
            type="email"
            value={draft.email ?? ""}
            error={save.errors["email"]}
            onChange={(e) => set({ email: e.target.value })}
          />
          <SelectField
            label={t`Role`}
            value={draft.role ?? ""}
            error={save.errors["role"]}
            onChange={(e) => set({ role: e.target.value })}
          >
            {Object.entries(roleNames).map(([role, name]) => (
              <option key={role} value={role}>
                {name}
              </option>
            ))}
          </SelectField>
          <SelectField
            label={t`Is the practitioner`}
            value={draft.practitionerId ?? ""}
            error={save.errors["practitionerId"]}
            onChange={(e) => set({ practitionerId: e.target.value || null })}
          >
            <option value="">
              <Trans>nobody of the team</Trans>
            </option>
            {people.data?.map((person) => (
              <option key={person.id} value={person.id!}>
                {person.name}
              </option>
            ))}
          </SelectField>
        </Columns>
        {draft.role === "Practitioner" && (
          <>
            <CheckField
              label={t`May change their own shifts and blocked time`}
              checked={draft.editsOwnShifts}
              onChange={(editsOwnShifts) => set({ editsOwnShifts })}
            />
            <CheckField
              label={t`May say of their own visits: arrived, in treatment, done, did not come`}
              checked={draft.keepsOwnVisits}
              onChange={(keepsOwnVisits) => set({ keepsOwnVisits })}
            />
            <CheckField
              label={t`May read numbers and addresses of clients who come to colleagues`}
              checked={draft.seesContacts}
              onChange={(seesContacts) => set({ seesContacts })}
            />
          </>
        )}
        {draft.role === "Desk" && (
          <CheckField
            label={t`May overbook: put a visit over another one knowingly`}
            checked={draft.mayOverbook}
            onChange={(mayOverbook) => set({ mayOverbook })}
          />
        )}
        {account.id && (
          <CheckField
            label={t`Account closed`}
            checked={draft.signedOff}
            onChange={(signedOff) => set({ signedOff })}
          />
        )}
        <Row>
          <Press type="submit" look="primary" disabled={save.pending}>
            {account.id ? t`Save` : t`Add`}
          </Press>
          {account.id && (
            <Press disabled={link.pending} onClick={() => link.run(null)}>
              <Trans>Make a sign-in link</Trans>
            </Press>
          )}
          <Outcome change={save} fields={["name", "email", "role", "practitionerId"]} />
          {account.id && account.hasCode && (
            <Press disabled={forget.pending} onClick={() => forget.run(null)}>
              <Trans>Take their second factor off</Trans>
            </Press>
          )}
          <Outcome change={link} saved="" />
          <Outcome change={forget} saved={t`Taken off. They sign in with their password alone.`} />
        </Row>
        {made && (
          <Box bg="glow" borderRadius="card" p="2.5">
            <Trans>
              Pass this on to {account.name}; it is good once, for seven days, and is not shown again:
              <Box fontWeight="700" overflowWrap="anywhere">
                {window.location.origin + made}
              </Box>
            </Trans>
          </Box>
        )}
      </Stack>
    </Section>
  );
}
