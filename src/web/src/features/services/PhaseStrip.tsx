import { useRef } from "react";
import type { Equipment, Service } from "../../api/setup";
import { SelectField } from "../../shared/Field";
import { CheckField, NumberField } from "../../shared/inputs";
import { Box, Row, Span, Stack } from "../../shared/layout";
import { Plain } from "../../shared/Plain";
import { Press } from "../../shared/Press";
import { minutesOf } from "./words";

type Phase = NonNullable<Service["phases"]>[number];
type Props = {
  service: Service;
  pools: Equipment[];
  errors: Record<string, string>;
  chosen: number;
  onChoose: (phase: number) => void;
  onChange: (phases: Phase[]) => void;
};
const grain = 5;

/**
 * The phases of a service on a strip of time. The edge between two is dragged, or moved with the arrow keys; an unattended
 * phase is an open outline, as in the book.
 */
export function PhaseStrip({ service, pools, errors, chosen, onChoose, onChange }: Props) {
  const strip = useRef<HTMLDivElement>(null);
  const phases = service.phases ?? [];
  const total = Math.max(grain, minutesOf(service));
  const at = Math.min(chosen, phases.length - 1);
  const phase = phases[at];
  const set = (i: number, change: Partial<Phase>) =>
    onChange(phases.map((other, j) => (j === i ? { ...other, ...change } : other)));
  const stretch = (i: number, by: number) => {
    const next = Math.max(grain, phases[i]!.minutes + by);
    set(i, { minutes: next });
  };
  const drag = (i: number, from: number) => {
    const width = strip.current?.clientWidth ?? 1;
    const before = phases[i]!.minutes;
    const move = (event: PointerEvent) => {
      const minutes = Math.max(grain, Math.round((before + ((event.clientX - from) / width) * total) / grain) * grain);
      onChange(phases.map((other, j) => (j === i ? { ...other, minutes } : other)));
    };
    const stop = () => {
      window.removeEventListener("pointermove", move);
      window.removeEventListener("pointerup", stop);
    };
    window.addEventListener("pointermove", move);
    window.addEventListener("pointerup", stop);
  };
  return (
    <Stack gap="10px">
      <Row gap="0" flexWrap="nowrap" ref={strip} aria-label="Phases" role="group">
        {service.bufferBeforeMinutes > 0 && <Buffer minutes={service.bufferBeforeMinutes} total={total} />}
        {phases.map((other, i) => {
          const attended = (other.attendedBy ?? []).length > 0;
          return (
            <Box key={i} position="relative" minW="44px" style={{ flexGrow: other.minutes, flexBasis: 0 }}>
              <Plain
                aria-pressed={i === at}
                onClick={() => onChoose(i)}
                w="100%"
                h="52px"
                cursor="pointer"
                bg={attended ? "tint0" : "sheet"}
                borderWidth={i === at ? "3px" : "2px"}
                borderStyle={attended ? "solid" : "dashed"}
                borderColor={i === at ? "focus" : "water"}
                borderRadius="4px"
                fontWeight="700"
                lineHeight="1.15"
              >
                <Span srOnly>Phase {i + 1}: </Span>
                {other.minutes}
                <Span srOnly> minutes, </Span>
                <Box fontSize="14px" fontWeight="400">
                  {attended
                    ? (service.roles?.length ?? 1) > 1
                      ? other.attendedBy!.map((role) => service.roles?.[role]?.name?.split(" ")[0]).join(" + ")
                      : "with client"
                    : "alone"}
                </Box>
              </Plain>
              <Plain
                role="slider"
                aria-label={`Length of phase ${i + 1}`}
                aria-valuenow={other.minutes}
                aria-valuemin={grain}
                aria-valuemax={1440}
                aria-valuetext={`${other.minutes} minutes`}
                position="absolute"
                right="-12px"
                top="0"
                w="24px"
                h="52px"
                cursor="ew-resize"
                zIndex={1}
                touchAction="none"
                onPointerDown={(event) => {
                  event.currentTarget.focus();
                  onChoose(i);
                  drag(i, event.clientX);
                }}
                onKeyDown={(event) => {
                  const by =
                    event.key === "ArrowRight" || event.key === "ArrowUp"
                      ? grain
                      : event.key === "ArrowLeft" || event.key === "ArrowDown"
                        ? -grain
                        : 0;
                  if (by === 0) return;
                  event.preventDefault();
                  stretch(i, by);
                }}
              />
            </Box>
          );
        })}
        {service.bufferAfterMinutes > 0 && <Buffer minutes={service.bufferAfterMinutes} total={total} />}
      </Row>
      <Box fontSize="14px" color="quiet">
        {minutesOf(service)} minutes in the room
        {service.bufferAfterMinutes + service.bufferBeforeMinutes > 0 &&
          `, and ${service.bufferBeforeMinutes + service.bufferAfterMinutes} minutes of buffer for the practitioner`}
        . Drag an edge, or change the number.
      </Box>
      {errors["phases"] && (
        <Box role="alert" color="clay" fontSize="14px">
          {errors["phases"]}
        </Box>
      )}
      {phase && (
        <Row alignItems="end" bg="paper" borderRadius="card" p="10px">
          <Box w="130px">
            <NumberField
              label={`Phase ${at + 1} (min)`}
              step={5}
              min={5}
              value={phase.minutes}
              error={errors[`phases[${at}].minutes`]}
              onChange={(minutes) => set(at, { minutes: minutes ?? 0 })}
            />
          </Box>
          <Stack gap="0">
            {(service.roles ?? []).map((role, i) => (
              <CheckField
                key={i}
                label={`${role.name || "Practitioner"} is with the client`}
                checked={(phase.attendedBy ?? []).includes(i)}
                onChange={(on) =>
                  set(at, {
                    attendedBy: on
                      ? [...(phase.attendedBy ?? []), i]
                      : (phase.attendedBy ?? []).filter((other) => other !== i),
                  })
                }
              />
            ))}
          </Stack>
          {pools.length > 0 && (
            <Box w="200px">
              <SelectField
                label="Needs equipment"
                value={phase.equipment?.[0]?.poolId ?? ""}
                error={Object.entries(errors).find(([field]) => field.startsWith(`phases[${at}].equipment`))?.[1]}
                onChange={(e) => set(at, { equipment: e.target.value ? [{ poolId: e.target.value, units: 1 }] : [] })}
              >
                <option value="">none</option>
                {pools.map((pool) => (
                  <option key={pool.id} value={pool.id!}>
                    {pool.name}
                  </option>
                ))}
              </SelectField>
            </Box>
          )}
          <Press
            onClick={() => {
              onChange([
                ...phases.slice(0, at + 1),
                { minutes: 15, attendedBy: (phase.attendedBy ?? []).length > 0 ? [] : [0], equipment: [] },
                ...phases.slice(at + 1),
              ]);
              onChoose(at + 1);
            }}
          >
            Add a phase after it
          </Press>
          {phases.length > 1 && (
            <Press
              look="quiet"
              onClick={() => {
                onChange(phases.filter((_, i) => i !== at));
                onChoose(Math.max(0, at - 1));
              }}
            >
              Remove it
            </Press>
          )}
        </Row>
      )}
    </Stack>
  );
}

const Buffer = ({ minutes, total }: { minutes: number; total: number }) => (
  <Box
    h="52px"
    minW="26px"
    display="grid"
    placeItems="center"
    fontSize="14px"
    color="quiet"
    bg="woven"
    borderRadius="4px"
    title={`${minutes} minutes of buffer`}
    style={{ flexGrow: minutes, flexBasis: 0, maxWidth: `${(minutes / total) * 100}%` }}
  >
    {minutes}
  </Box>
);
