import { useQuery } from "@tanstack/react-query";
import { asks } from "../../../api/queries";
import { Box, Section, Stack, Table } from "../../../shared/layout";
import serverPackages from "./serverLicences.json";

/** Which Kingcup this is, and the licences of everything that ships with it. */
export function AboutTab() {
  const shipped = useQuery(asks.licences());
  return (
    <Stack pb="30px">
      <Section title="Kingcup">
        {shipped.data ? `Version ${shipped.data.version}.` : (shipped.error?.message ?? "Looking …")}
      </Section>
      <Section title="In the screens" hint="Fonts and packages that are sent to the browser, with their licences.">
        <Table>
          <thead>
            <tr>
              <th>Name</th>
              <th>Version</th>
              <th>Licence</th>
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
                      <Box as="summary" cursor="pointer" minH="24px">
                        {item.licence || "its own words"}
                      </Box>
                      <Box whiteSpace="pre-wrap" fontSize="14px" overflowWrap="anywhere">
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
      <Section title="In the server">
        <Table>
          <thead>
            <tr>
              <th>Name</th>
              <th>Version</th>
              <th>Licence</th>
              <th>By</th>
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
