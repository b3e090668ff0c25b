import { chakra } from "@chakra-ui/react";
import { useEffect, useRef } from "react";
import type { Booked } from "../../../api/public";
import { clock, clockRange, dateIn, longDate, money } from "../../../shared/format";
import { Press } from "../../../shared/Press";

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
  const ref = useRef<HTMLDivElement>(null);
  useEffect(() => ref.current?.focus(), []);
  const { after } = booked;
  useEffect(() => {
    if (after?.atOnce) window.location.assign(after.address);
  }, [after]);
  return (
    <Box
      as="main"
      ref={ref}
      tabIndex={-1}
      outline="none"
      bg="sheet"
      borderWidth="1px"
      borderColor="line"
      borderRadius="card"
      p="22px"
      display="grid"
      gap="10px"
      justifyItems="start"
      maxW="560px"
    >
      <Box as="h1" fontSize="26px">
        {booked.isRequest ? "We have your request" : "Your visit is booked"}
      </Box>
      {booked.isRequest && (
        <Box>The time is kept for you. Somebody looks at it and tells you whether it can be so.</Box>
      )}
      <Box fontSize="19px" fontWeight="700">
        {longDate(dateIn(booked.start, booked.zone))}, {clockRange(booked.start, booked.end, booked.zone)}
      </Box>
      {booked.lines.map((line) => (
        <Box key={line}>{line}</Box>
      ))}
      <Box>
        {booked.location}, {booked.address}
      </Box>
      <Box>{money(booked.price)}, to pay at the visit</Box>
      <Box bg="glow" borderRadius="card" px="14px" py="9px">
        Your reference:{" "}
        <Box as="strong" fontSize="20px" letterSpacing="1px" data-reference>
          {booked.reference}
        </Box>
      </Box>
      {opened.length > 0 && (
        <Box as="section" aria-label="What you can book now" display="grid" gap="8px" justifyItems="start">
          <Box as="h2" fontSize="18px">
            Now you can book
          </Box>
          {opened.map((item) => (
            <Box key={item.serviceId} display="grid" gap="4px" justifyItems="start">
              <Box>
                {item.name}, from {longDate(dateIn(item.from, booked.zone))}, {clock(item.from, booked.zone)}
              </Box>
              <Press look="primary" onClick={() => onOpened(item.serviceId)}>
                Choose a time for {item.name}
              </Press>
            </Box>
          ))}
        </Box>
      )}
      <Box color="quiet">Cannot come? Please call{phone ? ` ${phone}` : ""} and say the reference.</Box>
      <Box display="flex" flexWrap="wrap" gap="8px" alignItems="center">
        {after && !after.atOnce && (
          <Onward
            href={after.address}
            bg="water"
            color="onWater"
            fontWeight="600"
            borderRadius="card"
            px="16px"
            py="9px"
          >
            {after.words ?? "Go on"}
          </Onward>
        )}
        <Press onClick={onAgain}>Book another visit</Press>
      </Box>
    </Box>
  );
}
