import { t } from "@lingui/core/macro";
import { useParams } from "react-router";
import { Page, Tabs } from "../../shared/layout";
import { AboutTab } from "./about/AboutTab";
import { AccountsTab } from "../signin/AccountsTab";
import { BookingPageTab } from "./BookingPageTab";
import { BusinessTab } from "./BusinessTab";
import { GuaranteesTab } from "../money/GuaranteesTab";
import { HistoryTab } from "./HistoryTab";
import { ImportTab } from "../exchange/ImportTab";
import { LocationsTab } from "./LocationsTab";
import { ReadyTab } from "../availability/ReadyTab";

const tabs: [string, string][] = [
  ["/setup", t`Ready?`],
  ["/setup/business", t`Business`],
  ["/setup/locations", t`Locations and hours`],
  ["/setup/booking-page", t`Booking page`],
  ["/setup/deposits", t`Deposits and cancelling`],
  ["/setup/accounts", t`Sign-ins`],
  ["/setup/import", t`Import and export`],
  ["/setup/history", t`History`],
  ["/setup/about", t`About`],
];

const parts: Record<string, () => React.ReactNode> = {
  business: BusinessTab,
  locations: LocationsTab,
  "booking-page": BookingPageTab,
  deposits: GuaranteesTab,
  accounts: AccountsTab,
  import: ImportTab,
  history: HistoryTab,
  about: AboutTab,
};

/** What the whole business has in common. */
export function SetupPage() {
  const { part } = useParams();
  const Part = parts[part ?? ""] ?? ReadyTab;
  return (
    <Page title={t`Setup`}>
      <Tabs label={t`Setup`} items={tabs} />
      <Part />
    </Page>
  );
}
