import { asks } from "../../api/queries";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";

import { Outcome, useChange } from "../../shared/change";
import { TextField } from "../../shared/Field";
import { moment } from "../../shared/format";
import { Box, Row, Section, Stack } from "../../shared/layout";
import { Press } from "../../shared/Press";

/** What everybody sees to themselves: password, second factor, and where they are signed in. */
export function AccountPage({ needsCode }: { needsCode: boolean }) {
  return (
    <Box as="main" p="20px" overflowY="auto" h="100%">
      <Box as="h1" fontSize="24px" mb="14px">
        Your account
      </Box>
      <Stack maxW="640px" pb="30px">
        {needsCode && (
          <Box role="status" bg="glow" borderRadius="card" p="10px">
            Owners of this business sign in with a second factor. Set yours up and the rest opens.
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
    <Section title="Password">
      <Stack
        as="form"
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          if (!save.pending) save.run({ present, password });
        }}
      >
        <TextField
          label="Present password"
          type="password"
          autoComplete="current-password"
          value={present}
          error={save.errors["present"]}
          onChange={(e) => setPresent(e.target.value)}
        />
        <TextField
          label="New password"
          type="password"
          autoComplete="new-password"
          hint="10 characters or more"
          value={password}
          error={save.errors["password"]}
          onChange={(e) => setPassword(e.target.value)}
        />
        <Row>
          <Press type="submit" look="primary" disabled={save.pending}>
            Change it
          </Press>
          <Outcome change={save} fields={["present", "password"]} saved="Changed. Your other devices are signed out." />
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
    void queries.invalidateQueries({ queryKey: asks.secondFactor().queryKey });
    void queries.invalidateQueries({ queryKey: asks.session().queryKey });
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
    <Section title="Second factor">
      {state.data?.isOn ? (
        <Stack
          as="form"
          onSubmit={(event: React.FormEvent) => {
            event.preventDefault();
            if (!end.pending) end.run(password);
          }}
        >
          <Box>On. Signing in asks for your password and a code.</Box>
          <TextField
            label="Your password, to take it off"
            type="password"
            autoComplete="current-password"
            value={password}
            error={end.errors["password"]}
            onChange={(e) => setPassword(e.target.value)}
          />
          <Row>
            <Press type="submit" disabled={end.pending}>
              Take it off
            </Press>
            <Outcome change={end} fields={["password"]} saved="" />
          </Row>
        </Stack>
      ) : made ? (
        <Stack
          as="form"
          onSubmit={(event: React.FormEvent) => {
            event.preventDefault();
            if (!confirm.pending) confirm.run(code);
          }}
        >
          <Box>
            Point an application for codes at the picture, or type the secret into it. Then enter the code it shows.
          </Box>
          <img
            src={`data:image/svg+xml;utf8,${encodeURIComponent(made.picture)}`}
            alt="The secret as a picture to point at"
            width="180"
            height="180"
          />
          <Box fontWeight="700" overflowWrap="anywhere">
            {made.secret}
          </Box>
          <TextField
            label="Code"
            inputMode="numeric"
            autoComplete="one-time-code"
            autoFocus
            value={code}
            error={confirm.errors["code"]}
            onChange={(e) => setCode(e.target.value)}
          />
          <Row>
            <Press type="submit" look="primary" disabled={confirm.pending}>
              Turn it on
            </Press>
            <Press onClick={() => setMade(null)}>Leave it</Press>
            <Outcome change={confirm} fields={["code"]} saved="" />
          </Row>
        </Stack>
      ) : (
        <Stack>
          <Box>Off. With a second factor nobody signs in as you who only knows your password.</Box>
          <Row>
            <Press disabled={begin.pending || !state.data} onClick={() => begin.run(null)}>
              Set it up
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
    () => void queries.invalidateQueries({ queryKey: asks.ownSessions().queryKey }),
  );
  // Where this device is, not where a location is.
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  return (
    <Section title="Where you are signed in">
      <Box as="ul" listStyleType="none">
        {all.data?.map((item) => (
          <Box as="li" key={item.id} borderTopWidth="1px" borderColor="line" py="6px">
            <b>{item.device}</b>
            {item.isThis && ", this one"}
            <Box fontSize="14px" color="quiet">
              since {moment(item.since, zone)}, last used {moment(item.seen, zone)}
            </Box>
          </Box>
        ))}
      </Box>
      <Row mt="10px">
        <Press disabled={end.pending || (all.data?.length ?? 0) < 2} onClick={() => end.run(null)}>
          Sign the others out
        </Press>
        <Outcome change={end} saved="They are signed out." />
      </Row>
    </Section>
  );
}
