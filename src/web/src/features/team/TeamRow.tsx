import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { Link } from "react-router";
import type { Issue, Practitioner } from "../../api/setup";
import { timeAt } from "../../shared/fields/clockText";
import { longDate } from "../../shared/format";
import { Box, Row } from "../../shared/layout";
import { Face } from "../../shared/pictures";
import { Piece } from "../../shared/ribbon/Piece";
import { Strip } from "../../shared/ribbon/Strip";
import { shiftWords } from "../calendar/shifts";
import type { Presence } from "./teamDay";
import { narrow } from "../../theme/media";

const Anchor = chakra(Link, {
  base: {
    fontWeight: "700",
    textDecoration: "underline",
    textDecorationColor: "line",
    overflowWrap: "anywhere",
  },
});

/** The columns of a row of the team, and of the hours over them; a telephone has one. */
export const TeamGrid = chakra("div", {
  base: {
    display: "grid",
    gridTemplateColumns: "minmax({sizes.37}, {sizes.65}) minmax(0, 1fr) minmax({sizes.30}, {sizes.55})",
    columnGap: "3.5",
    rowGap: "1",
    alignItems: "center",
    flex: 1,
    minW: 0,
    [narrow]: { gridTemplateColumns: "minmax(0, 1fr)", "& > *": { gridColumn: "1 !important" } },
  },
});

type Props = {
  person: Practitioner;
  /** Where they are on the day shown; undefined while that is asked. */
  presences: Presence[] | undefined;
  places: string[];
  issue: Issue | undefined;
  severalPlaces: boolean;
};

/** Somebody of the team: who they are, their day as a ribbon with how full it is, and what is special about them. */
export function TeamRow({ person, presences, places, issue, severalPlaces }: Props) {
  const words = (presence: Presence) =>
    [severalPlaces ? presence.place : "", presence.fullness === null ? "" : t`${presence.fullness} % full`]
      .filter(Boolean)
      .join(", ");
  return (
    <TeamGrid py="1.5">
      <Row flexWrap="nowrap" minW="0">
        <Face name={person.name ?? ""} photoId={person.photoId} tint={person.tint} size={40} />
        <Box minW="0">
          <Anchor to={`/team/${person.id}`}>{person.name}</Anchor>
          <Box fontSize="small" color="quiet" overflowWrap="anywhere">
            {person.bio || places.join(", ")}
          </Box>
        </Box>
      </Row>
      <Strip label={t`${person.name ?? ""}'s day`}>
        {presences?.length === 0 && (
          <Box position="absolute" insetStart="2.5" top="2" fontSize="small" color="quiet">
            <Trans>not here</Trans>
          </Box>
        )}
        {presences?.flatMap((presence) =>
          presence.open.map((open) => (
            <Piece
              key={`${presence.place} ${open.from}`}
              stretch={open}
              look="open"
              label={`${person.name}, ${words(presence)}`}
              text={shiftWords({ from: timeAt(open.from), until: timeAt(open.until) })}
              fullness={presence.fullness}
            />
          )),
        )}
        {presences?.flatMap((presence) =>
          presence.blocked.map((blocked) => (
            <Piece key={`${presence.place} ${blocked.from}`} stretch={blocked} look="break" label="" isBehind />
          )),
        )}
      </Strip>
      <Box fontSize="small" color="quiet" overflowWrap="anywhere">
        {presences?.map((presence) => (
          <Box key={presence.place}>{words(presence)}</Box>
        ))}
        {issue && !person.retired && (
          <Box color="clay" fontWeight="700">
            {issue.text}
          </Box>
        )}
        {person.retired && (
          <Box>
            <Trans>left from {longDate(person.retired)}</Trans>
          </Box>
        )}
        {!person.bookableOnline && (
          <Box>
            <Trans>not booked online</Trans>
          </Box>
        )}
        {person.bookableOnline && !person.acceptsNewClients && (
          <Box>
            <Trans>no new clients</Trans>
          </Box>
        )}
      </Box>
    </TeamGrid>
  );
}
