import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useParams } from "react-router";
import type { Session } from "../../api/staff";
import { Empty, Page, Tabs } from "../../shared/layout";
import { usePlaces } from "../../shared/today";
import { CalendarTab } from "./CalendarTab";
import { RotaTab } from "../team/rota/RotaTab";

/** A practitioner's own time: when they work, when they are away, and, where the owner allows it, changing that. */
export function MyShiftsPage({ session }: { session: Session }) {
  const { tab } = useParams();
  const places = usePlaces();
  const me = { id: session.practitionerId ?? null, name: session.name };
  if (places.length === 0)
    return (
      <Page title={t`My shifts`}>
        <Empty>
          <Trans>There is no location yet, and so no shift.</Trans>
        </Empty>
      </Page>
    );
  return (
    <Page
      title={t`My shifts`}
      lead={session.editsOwnShifts ? undefined : t`Whoever keeps the setup changes it for you.`}
    >
      {session.editsOwnShifts && (
        <Tabs
          label={t`My shifts`}
          items={[
            ["/my-shifts", t`Calendar`],
            ["/my-shifts/rota", t`Rota`],
          ]}
        />
      )}
      {tab === "rota" && session.editsOwnShifts ? (
        <RotaTab practitioner={me} people={[]} />
      ) : (
        <CalendarTab practitioner={me} mayChange={session.editsOwnShifts} />
      )}
    </Page>
  );
}
