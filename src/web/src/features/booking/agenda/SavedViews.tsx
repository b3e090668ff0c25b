import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { asks } from "../../../api/queries";
import { staff } from "../../../api/staff";
import { TextField } from "../../../shared/Field";
import { Floating } from "../../../shared/Floating";
import { askAnew } from "../../../shared/askAnew";
import { CheckField } from "../../../shared/fields/CheckField";
import { Box, Row } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";

const Form = chakra("form");
type Props = { query: string; onOpen: (query: string) => void };

/** Views somebody has saved by name: their own, and those for all. */
export function SavedViews({ query, onOpen }: Props) {
  const queries = useQueryClient();
  const saved = useQuery(asks.views());
  const [view, setView] = useState({ name: "", isForAll: false });
  const again = () => void askAnew(queries, { queryKey: asks.views().queryKey });
  const save = useMutation({
    mutationFn: () => answerOf(staff.POST("/api/v1/views", { body: { ...view, query } })),
    onSuccess: () => {
      setView({ name: "", isForAll: false });
      again();
    },
  });
  const drop = useMutation({
    mutationFn: (id: string) => answerOf(staff.DELETE("/api/v1/views/{id}", { params: { path: { id } } })),
    onSettled: again,
  });
  return (
    <Row gap="2">
      {saved.data?.map((one) => (
        <Row key={one.id} gap="0" flexWrap="nowrap">
          <Press
            size="small"
            aria-pressed={one.query === query}
            title={one.isForAll ? t`for all` : t`your own`}
            onClick={() => onOpen(one.query)}
          >
            {one.name}
          </Press>
          {one.mayRemove && (
            <Press
              size="small"
              look="quiet"
              aria-label={t`Remove the view ${one.name}`}
              onClick={() => drop.mutate(one.id)}
            >
              ✕
            </Press>
          )}
        </Row>
      ))}
      <Floating
        label={t`Save this view`}
        trigger={
          <Press size="small" look="quiet">
            <Trans>Save this view</Trans>
          </Press>
        }
      >
        {(close) => (
          <Form
            noValidate
            display="grid"
            gap="2"
            p="2"
            onSubmit={(event) => {
              event.preventDefault();
              save.mutate(undefined, { onSuccess: close });
            }}
          >
            <TextField
              label={t`What it is called`}
              value={view.name}
              maxLength={60}
              error={save.error?.message}
              onChange={(event) => setView({ ...view, name: event.target.value })}
            />
            <CheckField
              label={t`For all`}
              checked={view.isForAll}
              onChange={(isForAll) => setView({ ...view, isForAll })}
            />
            <Box>
              <Press type="submit" size="small" look="primary" disabled={save.isPending}>
                <Trans>Save</Trans>
              </Press>
            </Box>
          </Form>
        )}
      </Floating>
    </Row>
  );
}
