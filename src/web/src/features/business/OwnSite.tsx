import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { WordsField } from "../../shared/fields/WordsField";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { asks } from "../../api/queries";
import type { DeskSetup } from "../../api/staff";
import { AreaField, SelectField } from "../../shared/Field";
import { Box, Columns, Section } from "../../shared/layout";
import { useDeskSetup } from "../../shared/today";

/** A few lines of HTML for the owner's own site: a button that leads to the booking page, and a frame that shows it. */
export function OwnSite({
  sites,
  errors,
  onSites,
}: {
  sites: readonly string[];
  errors: Readonly<Record<string, string>>;
  onSites: (sites: string[]) => void;
}) {
  const setup = useDeskSetup();
  const promos = (useQuery(asks.promos()).data ?? []).filter((promo) => !promo.isEnded);
  const [leads, setLeads] = useState("");
  const address = `${window.location.origin}/book${leads}`;
  const button = `<a href="${address}">${t`Book a visit`}</a>`;
  const frame = `<iframe src="${address}" title="${t`Book a visit`}" width="100%" height="780" style="border:0"></iframe>`;
  const fault = Object.entries(errors).find(([field]) => field.startsWith("frameSites"))?.[1];
  return (
    <Section
      title={t`On your own site`}
      hint={t`For a page of yours. In a frame clients choose what, with whom and when; then the page takes the whole window.`}
    >
      <Box mb="2.5" maxW="90">
        <SelectField label={t`They lead to`} value={leads} onChange={(event) => setLeads(event.target.value)}>
          <option value="">{t`the whole page`}</option>
          {kindsOf(setup).map(([kind, name, places]) => (
            <optgroup key={kind} label={name}>
              {places.map((place) => (
                <option key={place.id} value={`?${kind}=${place.id}`}>
                  {place.name}
                </option>
              ))}
            </optgroup>
          ))}
          {promos.length > 0 && (
            <optgroup label={t`The whole page, with a promo code`}>
              {promos.map(({ code }) => (
                <option key={code} value={`?promo=${code}`}>
                  {code}
                </option>
              ))}
            </optgroup>
          )}
        </SelectField>
      </Box>
      <Columns least={300}>
        <AreaField label={t`A link, to be made a button`} rows={3} readOnly value={button} onFocus={chooseAll} />
        <AreaField label={t`A frame`} rows={3} readOnly value={frame} onFocus={chooseAll} />
      </Columns>
      <Box mt="2.5">
        <WordsField
          label={t`Sites that may show the frame`}
          words={sites}
          error={fault}
          hint={t`As https://www.example.org. No other site can; a link works everywhere.`}
          onChange={onSites}
        />
      </Box>
      {sites.length === 0 && (
        <Box mt="1" fontSize="small" color="quiet">
          <Trans>None yet: the frame stays empty wherever it is put.</Trans>
        </Box>
      )}
    </Section>
  );
}

/** What a link can lead to, by what the booking page calls it in its address. */
const kindsOf = ({ locations, categories, services, practitioners }: DeskSetup) =>
  [
    ["where", t`Locations`, locations.length > 1 ? locations : []],
    ["of", t`Categories`, categories],
    ["what", t`Services`, services],
    ["who", t`Practitioners`, practitioners.filter((who) => !who.hasLeft)],
  ] as const satisfies [string, string, { id: string; name: string }[]][];

const chooseAll = (event: { target: { select: () => void } }) => event.target.select();
