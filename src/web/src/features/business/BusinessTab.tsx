import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { keepers } from "../../api/keepers";
import { asks } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { type Business } from "../../api/setup";

import { Outcome } from "../../shared/change";
import { ChosenField } from "../../shared/fields/ChosenField";
import { countries, currencies, localesIn } from "../../shared/fields/named";
import { AreaField, TextField } from "../../shared/Field";
import { WordsField } from "../../shared/fields/WordsField";
import { CheckField } from "../../shared/fields/CheckField";
import { Box, Columns, Row, Section, asForm } from "../../shared/layout";
import { PicturesPart } from "./PicturesPart";
import { PictureField } from "../../shared/pictures";
import { useKept } from "../../shared/kept";
import { Press } from "../../shared/Press";
import { usualColours } from "../../theme/colours";

/** Name, look and taxes of the business. */
export function BusinessTab() {
  const business = useQuery(asks.business());
  return business.data ? <BusinessForm business={business.data} /> : null;
}

function BusinessForm({ business }: { business: Business }) {
  const { draft, set, save, errors, submit } = useKept(business, keepers.business);
  const rates = draft.taxRates ?? [];
  return (
    <Box {...asForm} onSubmit={submit} display="grid" gap="3.5" pb="7">
      <Section title={t`The business`}>
        <Columns least={240}>
          <TextField
            label={t`Name clients read`}
            value={draft.name ?? ""}
            error={errors["name"]}
            onChange={(e) => set({ name: e.target.value })}
          />
          <TextField
            label={t`Telephone`}
            value={draft.phone ?? ""}
            error={errors["phone"]}
            onChange={(e) => set({ phone: e.target.value })}
          />
          <ChosenField
            label={t`Currency`}
            value={draft.currency ?? ""}
            options={currencies()}
            error={errors["currency"]}
            onChange={(currency) => set({ currency })}
          />
          <ChosenField
            label={t`Country`}
            value={draft.region ?? ""}
            options={countries()}
            error={errors["region"]}
            onChange={(region) => set({ region })}
          />
          <ChosenField
            label={t`Language, and how dates and money are written`}
            value={draft.locale ?? ""}
            options={localesIn(draft.region ?? "IE", draft.locale ?? "")}
            error={errors["locale"]}
            onChange={(locale) => set({ locale })}
          />
        </Columns>
        <Box mt="3">
          <AreaField
            label={t`A few words for clients`}
            value={draft.about ?? ""}
            error={errors["about"]}
            onChange={(e) => set({ about: e.target.value })}
          />
        </Box>
      </Section>
      <Section title={t`Look of the booking page`}>
        <Columns least={240}>
          <PictureField label={t`Logo`} id={draft.logoId} onChange={(logoId) => set({ logoId })} />
          <TextField
            label={t`Main colour, of buttons`}
            type="color"
            value={draft.colourMain ?? usualColours.main}
            error={errors["colourMain"]}
            onChange={(e) => set({ colourMain: e.target.value.toUpperCase() })}
          />
          <TextField
            label={t`Accent colour, of what is chosen`}
            type="color"
            value={draft.colourAccent ?? usualColours.accent}
            error={errors["colourAccent"]}
            onChange={(e) => set({ colourAccent: e.target.value.toUpperCase() })}
          />
          <Row aria-hidden>
            <Box
              px="3.5"
              py="2"
              borderRadius="card"
              fontWeight="600"
              style={{ background: draft.colourMain ?? "", color: usualColours.onMain }}
            >
              <Trans>Book 10:15</Trans>
            </Box>
            <Box px="3.5" py="2" borderRadius="card" color="onKingcup" style={{ background: draft.colourAccent ?? "" }}>
              10:15
            </Box>
          </Row>
        </Columns>
      </Section>
      <PicturesPart pictures={draft.pictures ?? []} errors={errors} onChange={(pictures) => set({ pictures })} />
      <Section title={t`Tax rates`} hint={t`Prices include tax.`}>
        {rates.map((rate, i) => (
          <Row key={i} alignItems="end" mb="2">
            <Box w="60">
              <TextField
                label={t`Name`}
                value={rate.name ?? ""}
                error={errors[`taxRates[${i}].name`]}
                onChange={(e) =>
                  set({
                    taxRates: rates.map((other, j) => (j === i ? { ...other, name: e.target.value } : other)),
                  })
                }
              />
            </Box>
            <Box w="30">
              <TextField
                label={t`Percent`}
                type="number"
                step="0.01"
                min="0"
                max="100"
                value={rate.basisPoints / 100}
                error={errors[`taxRates[${i}].basisPoints`]}
                onChange={(e) =>
                  set({
                    taxRates: rates.map((other, j) =>
                      j === i ? { ...other, basisPoints: Math.round(Number(e.target.value) * 100) } : other,
                    ),
                  })
                }
              />
            </Box>
            <Press look="quiet" onClick={() => set({ taxRates: rates.filter((_, j) => j !== i) })}>
              <Trans>Take out</Trans>
            </Press>
          </Row>
        ))}
        <Press size="small" onClick={() => set({ taxRates: [...rates, { id: null, name: "", basisPoints: 0 }] })}>
          <Trans>Add a rate</Trans>
        </Press>
      </Section>
      <Section
        title={t`Why visits are cancelled`}
        hint={t`What the desk chooses from; it can always write something else.`}
      >
        <WordsField
          label={t`A reason`}
          words={draft.cancelReasons ?? []}
          error={errors["cancelReasons"]}
          onChange={(cancelReasons) => set({ cancelReasons })}
        />
      </Section>
      <Section title={t`Signing in`}>
        <CheckField
          label={t`Owners need a code besides their password`}
          hint={t`From an authenticator on their phone. Owners without one set it up before anything else, you too.`}
          checked={draft.ownersNeedCode ?? false}
          onChange={(ownersNeedCode) => set({ ownersNeedCode })}
        />
      </Section>
      <Row position="sticky" bottom="-4" bg="paper" pt="2.5" pb="6" mb="-4">
        <Press type="submit" look="primary" disabled={save.pending}>
          <Trans>Save</Trans>
        </Press>
        <Outcome
          change={save}
          fields={[
            "name",
            "about",
            "phone",
            "currency",
            "region",
            "locale",
            "colourMain",
            "colourAccent",
            ...rates.flatMap((_, i) => [`taxRates[${i}].name`, `taxRates[${i}].basisPoints`]),
          ]}
        />
      </Row>
    </Box>
  );
}
