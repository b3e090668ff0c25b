import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { asks } from "../../../api/queries";
import { Box, Section, Stack, Table } from "../../../shared/layout";
import serverPackages from "./serverLicences.json";

/** Which Kingcup this is, and the licences of everything that ships with it. */
export function AboutTab() {
  const shipped = useQuery(asks.licences());
  return (
    <Stack pb="7">
      <Section title={t`Kingcup`}>
        {shipped.data ? t`Version ${shipped.data.version}.` : (shipped.error?.message ?? t`Looking …`)}
      </Section>
      <Section
        title={t`In the screens`}
        hint={t`Fonts and packages that are sent to the browser, with their licences.`}
      >
        <Table>
          <thead>
            <tr>
              <th>
                <Trans>Name</Trans>
              </th>
              <th>
                <Trans>Version</Trans>
              </th>
              <th>
                <Trans>Licence</Trans>
              </th>
            </tr>
          </thead>
          <tbody>
            {shipped.data?.packages.map((item) => (
              <tr key={item.name}>
                <td>{item.name}</td>
                <td>{item.version}</td>
                <td>
                  {item.text ? (
                    <details>
                      <Box as="summary" cursor="pointer" minH="6">
                        {item.licence || t`its own words`}
                      </Box>
                      <Box whiteSpace="pre-wrap" fontSize="small" overflowWrap="anywhere">
                        {item.text}
                      </Box>
                    </details>
                  ) : (
                    item.licence
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </Section>
      <Section title={t`In the server`}>
        <Table>
          <thead>
            <tr>
              <th>
                <Trans>Name</Trans>
              </th>
              <th>
                <Trans>Version</Trans>
              </th>
              <th>
                <Trans>Licence</Trans>
              </th>
              <th>
                <Trans>By</Trans>
              </th>
            </tr>
          </thead>
          <tbody>
            {serverPackages.map((item) => (
              <tr key={item.name}>
                <td>{item.name}</td>
                <td>{item.version}</td>
                <td>{item.licence}</td>
                <td>{item.by}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      </Section>
    </Stack>
  );
}
