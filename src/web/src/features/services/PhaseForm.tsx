import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Equipment, Service } from "../../api/setup";
import { SelectField } from "../../shared/Field";
import { MinutesField } from "../../shared/fields/MinutesField";
import { CheckField } from "../../shared/fields/CheckField";
import { Box, Row, Stack } from "../../shared/layout";
import { Press } from "../../shared/Press";

type Phase = NonNullable<Service["phases"]>[number];
type Props = {
  service: Service;
  pools: Equipment[];
  errors: Record<string, string>;
  chosen: number;
  onChoose: (phase: number) => void;
  onChange: (phases: Phase[]) => void;
};

/** The figures of the phase that is chosen on the ribbons. */
export function PhaseForm({ service, pools, errors, chosen, onChoose, onChange }: Props) {
  const phases = service.phases ?? [];
  const at = Math.min(chosen, phases.length - 1);
  const phase = phases[at];
  const set = (change: Partial<Phase>) =>
    onChange(phases.map((other, i) => (i === at ? { ...other, ...change } : other)));
  return (
    <>
      {errors["phases"] && (
        <Box role="alert" color="clay" fontSize="small">
          {errors["phases"]}
        </Box>
      )}
      {phase && (
        <Row alignItems="end" mt="2">
          <Box w="30">
            <MinutesField
              label={t`Phase ${at + 1} (min)`}
              value={phase.minutes}
              error={errors[`phases[${at}].minutes`]}
              onChange={(minutes) => set({ minutes: minutes ?? 0 })}
            />
          </Box>
          <Stack gap="0">
            {(service.roles ?? []).map((role, i) => (
              <CheckField
                key={i}
                label={t`${role.name || t`Practitioner`} is with the client`}
                checked={(phase.attendedBy ?? []).includes(i)}
                onChange={(on) => {
                  const others = (phase.attendedBy ?? []).filter((other) => other !== i);
                  set({ attendedBy: on ? [...others, i] : others });
                }}
              />
            ))}
          </Stack>
          {pools.length > 0 && (
            <Box w="45">
              <SelectField
                label={t`Needs equipment`}
                value={phase.equipment?.[0]?.poolId ?? ""}
                error={Object.entries(errors).find(([field]) => field.startsWith(`phases[${at}].equipment`))?.[1]}
                onChange={(e) => set({ equipment: e.target.value ? [{ poolId: e.target.value, units: 1 }] : [] })}
              >
                <option value="">
                  <Trans>none</Trans>
                </option>
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
              const isAttended = (phase.attendedBy ?? []).length > 0;
              const next = { minutes: 15, attendedBy: isAttended ? [] : [0], equipment: [] };
              onChange([...phases.slice(0, at + 1), next, ...phases.slice(at + 1)]);
              onChoose(at + 1);
            }}
          >
            <Trans>Add a phase after it</Trans>
          </Press>
          {phases.length > 1 && (
            <Press
              look="quiet"
              onClick={() => {
                onChange(phases.filter((_, i) => i !== at));
                onChoose(Math.max(0, at - 1));
              }}
            >
              <Trans>Remove it</Trans>
            </Press>
          )}
        </Row>
      )}
    </>
  );
}
