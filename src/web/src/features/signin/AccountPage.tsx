import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { asks } from "../../api/queries";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { staff } from "../../api/staff";
import { askAnew } from "../../shared/askAnew";
import { answerOf } from "../../shared/problem";

import { Outcome, useChange } from "../../shared/change";
import { TextField } from "../../shared/Field";
import { moment } from "../../shared/format";
import { Box, Row, Section, Stack, asForm } from "../../shared/layout";
import { Press } from "../../shared/Press";

/** What everybody sees to themselves: password, second factor, and where they are signed in. */
export function AccountPage({ needsCode }: { needsCode: boolean }) {
  return (
    <Box as="main" p="5" overflowY="auto" h="100%">
      <Box as="h1" fontSize="page" mb="3.5">
        <Trans>Your account</Trans>
      </Box>
      <Stack maxW="160" pb="7">
        {needsCode && (
          <Box role="status" bg="glow" borderRadius="card" p="2.5">
            <Trans>Owners of this business sign in with a second factor. Set yours up and the rest opens.</Trans>
          </Box>
        )}
        <SecondFactor />
        <Password />
        <Sessions />
      </Stack>
    </Box>
  );
}

function Password() {
  const [present, setPresent] = useState("");
  const [password, setPassword] = useState("");
  const save = useChange(
    (wanted: { present: string; password: string }, headers) =>
      answerOf(staff.PUT("/api/v1/session/password", { headers, body: wanted })),
    () => {
      setPresent("");
      setPassword("");
    },
  );
  return (
    <Section title={t`Password`}>
      <Stack
        {...asForm}
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          if (!save.pending) save.run({ present, password });
        }}
      >
        <TextField
          label={t`Present password`}
          type="password"
          autoComplete="current-password"
          value={present}
          error={save.errors["present"]}
          onChange={(e) => setPresent(e.target.value)}
        />
        <TextField
          label={t`New password`}
          type="password"
          autoComplete="new-password"
          hint={t`10 characters or more`}
          value={password}
          error={save.errors["password"]}
          onChange={(e) => setPassword(e.target.value)}
        />
        <Row>
          <Press type="submit" look="primary" disabled={save.pending}>
            <Trans>Change it</Trans>
          </Press>
          <Outcome
            change={save}
            fields={["present", "password"]}
            saved={t`Changed. Your other devices are signed out.`}
          />
        </Row>
      </Stack>
    </Section>
  );
}

function SecondFactor() {
  const queries = useQueryClient();
  const state = useQuery(asks.secondFactor());
  const [made, setMade] = useState<{ secret: string; picture: string } | null>(null);
  const [code, setCode] = useState("");
  const [password, setPassword] = useState("");
  const fresh = () => {
    setMade(null);
    setCode("");
    setPassword("");
    void askAnew(queries, { queryKey: asks.secondFactor().queryKey });
    void askAnew(queries, { queryKey: asks.session().queryKey });
  };
  const begin = useChange(
    (_: null, headers) => answerOf(staff.POST("/api/v1/session/second-factor", { headers })),
    setMade,
  );
  const confirm = useChange(
    (wanted: string, headers) =>
      answerOf(staff.PUT("/api/v1/session/second-factor", { headers, body: { code: wanted } })),
    fresh,
  );
  const end = useChange(
    (wanted: string, headers) =>
      answerOf(staff.POST("/api/v1/session/second-factor/off", { headers, body: { password: wanted } })),
    fresh,
  );
  return (
    <Section title={t`Second factor`}>
      {state.data?.isOn ? (
        <Stack
          {...asForm}
          onSubmit={(event: React.FormEvent) => {
            event.preventDefault();
            if (!end.pending) end.run(password);
          }}
        >
          <Box>
            <Trans>On. Signing in asks for your password and a code.</Trans>
          </Box>
          <TextField
            label={t`Your password, to take it off`}
            type="password"
            autoComplete="current-password"
            value={password}
            error={end.errors["password"]}
            onChange={(e) => setPassword(e.target.value)}
          />
          <Row>
            <Press type="submit" disabled={end.pending}>
              <Trans>Take it off</Trans>
            </Press>
            <Outcome change={end} fields={["password"]} saved="" />
          </Row>
        </Stack>
      ) : made ? (
        <Stack
          {...asForm}
          onSubmit={(event: React.FormEvent) => {
            event.preventDefault();
            if (!confirm.pending) confirm.run(code);
          }}
        >
          <Box>
            <Trans>
              Point an application for codes at the picture, or type the secret into it. Then enter the code it shows.
            </Trans>
          </Box>
          <img
            src={`data:image/svg+xml;utf8,${encodeURIComponent(made.picture)}`}
            alt={t`The secret as a picture to point at`}
            width="180"
            height="180"
          />
          <Box fontWeight="700" overflowWrap="anywhere">
            {made.secret}
          </Box>
          <TextField
            label={t`Code`}
            inputMode="numeric"
            autoComplete="one-time-code"
            autoFocus
            value={code}
            error={confirm.errors["code"]}
            onChange={(e) => setCode(e.target.value)}
          />
          <Row>
            <Press type="submit" look="primary" disabled={confirm.pending}>
              <Trans>Turn it on</Trans>
            </Press>
            <Press onClick={() => setMade(null)}>
              <Trans>Leave it</Trans>
            </Press>
            <Outcome change={confirm} fields={["code"]} saved="" />
          </Row>
        </Stack>
      ) : (
        <Stack>
          <Box>
            <Trans>Off. With a second factor nobody signs in as you who only knows your password.</Trans>
          </Box>
          <Row>
            <Press disabled={begin.pending || !state.data} onClick={() => begin.run(null)}>
              <Trans>Set it up</Trans>
            </Press>
            <Outcome change={begin} saved="" />
          </Row>
        </Stack>
      )}
    </Section>
  );
}

function Sessions() {
  const queries = useQueryClient();
  const all = useQuery(asks.ownSessions());
  const end = useChange(
    (_: null, headers) => answerOf(staff.DELETE("/api/v1/session/others", { headers })),
    () => void askAnew(queries, { queryKey: asks.ownSessions().queryKey }),
  );
  // Where this device is, not where a location is.
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  return (
    <Section title={t`Where you are signed in`}>
      <Box as="ul" listStyleType="none">
        {all.data?.map((item) => (
          <Box as="li" key={item.id} borderTopWidth="line" borderColor="line" py="1.5">
            <b>{item.device}</b>
            {item.isThis && <> ({t`this one`})</>}
            <Box fontSize="small" color="quiet">
              <Trans>
                since {moment(item.since, zone)}, last used {moment(item.seen, zone)}
              </Trans>
            </Box>
          </Box>
        ))}
      </Box>
      <Row mt="2.5">
        <Press disabled={end.pending || (all.data?.length ?? 0) < 2} onClick={() => end.run(null)}>
          <Trans>Sign the others out</Trans>
        </Press>
        <Outcome change={end} saved={t`They are signed out.`} />
      </Row>
    </Section>
  );
}
