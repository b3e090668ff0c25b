import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useEffect } from "react";
import type { Booked } from "../../../api/public";
import { clock, clockRange, dateIn, longDate, money } from "../../../shared/format";
import { Press } from "../../../shared/Press";
import { LastCard } from "./LastCard";

const Box = chakra("div");
const Onward = chakra("a");

/** What was booked, with the reference to say on the telephone. */
export function Done({
  booked,
  phone,
  opened,
  onOpened,
  onAgain,
}: {
  booked: Booked;
  phone: string | null;
  /** What it makes bookable. */
  opened: NonNullable<Booked["sequel"]>["services"];
  onOpened: (serviceId: string) => void;
  onAgain: () => void;
}) {
  const { after } = booked;
  useEffect(() => {
    if (after?.atOnce) window.location.assign(after.address);
  }, [after]);
  return (
    <LastCard says="booked">
      <Box as="h1" fontSize="page">
        {booked.isRequest ? t`We have your request` : t`Your visit is booked`}
      </Box>
      {booked.isRequest && (
        <Box>
          <Trans>The time is kept for you. Somebody looks at it and tells you whether it can be so.</Trans>
        </Box>
      )}
      <Box fontSize="title" fontWeight="700">
        {longDate(dateIn(booked.start, booked.zone))}, {clockRange(booked.start, booked.end, booked.zone)}
      </Box>
      {booked.lines.map((line) => (
        <Box key={line}>{line}</Box>
      ))}
      <Box>
        {booked.location}, {booked.address}
      </Box>
      <Box>
        {booked.paid && Number(booked.paid.amount) > 0 ? (
          <Trans>
            {money(booked.price)}: {money(booked.paid)} is paid, {money(booked.rest)} is left to pay at the visit
          </Trans>
        ) : (
          <Trans>{money(booked.price)}, to pay at the visit</Trans>
        )}
      </Box>
      <Box bg="glow" borderRadius="card" px="3.5" py="2">
        <Trans>
          Your reference:{" "}
          <Box as="strong" fontSize="title" data-reference>
            {booked.reference}
          </Box>
        </Trans>
      </Box>
      {opened.length > 0 && (
        <Box as="section" aria-label={t`What you can book now`} display="grid" gap="2" justifyItems="start">
          <Box as="h2" fontSize="title">
            <Trans>Now you can book</Trans>
          </Box>
          {opened.map((item) => (
            <Box key={item.serviceId} display="grid" gap="1" justifyItems="start">
              <Box>
                <Trans>
                  {item.name}, from {longDate(dateIn(item.from, booked.zone))}, {clock(item.from, booked.zone)}
                </Trans>
              </Box>
              <Press look="primary" onClick={() => onOpened(item.serviceId)}>
                <Trans>Choose a time for {item.name}</Trans>
              </Press>
            </Box>
          ))}
        </Box>
      )}
      <Box color="quiet">
        <Trans>
          We have written to you. Cannot come? Move or cancel it under <a href="/book/mine">your bookings</a>
          {phone ? t`, or call ${phone} and say the reference` : ""}.
        </Trans>
      </Box>
      <Box display="flex" flexWrap="wrap" gap="2" alignItems="center">
        {after && !after.atOnce && (
          <Onward href={after.address} bg="water" color="onWater" fontWeight="600" borderRadius="card" px="4" py="2">
            {after.words ?? t`Go on`}
          </Onward>
        )}
        {booked.calendar && (
          <Onward
            href={`data:text/calendar;charset=utf-8,${encodeURIComponent(booked.calendar)}`}
            download="booking.ics"
            textDecoration="underline"
          >
            <Trans>Put it into my calendar</Trans>
          </Onward>
        )}
        <Press onClick={onAgain}>
          <Trans>Book another visit</Trans>
        </Press>
      </Box>
    </LastCard>
  );
}
