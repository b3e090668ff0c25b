import { useParams } from "react-router";
import { Page, Tabs } from "../../shared/layout";
import { AboutTab } from "./about/AboutTab";
import { AccountsTab } from "../signin/AccountsTab";
import { BookingPageTab } from "./BookingPageTab";
import { BusinessTab } from "./BusinessTab";
import { HistoryTab } from "./HistoryTab";
import { ImportTab } from "../exchange/ImportTab";
import { LocationsTab } from "./LocationsTab";
import { ReadyTab } from "../availability/ReadyTab";

const tabs: [string, string][] = [
  ["/setup", "Ready?"],
  ["/setup/business", "Business"],
  ["/setup/locations", "Locations and hours"],
  ["/setup/booking-page", "Booking page"],
  ["/setup/accounts", "Sign-ins"],
  ["/setup/import", "Import and export"],
  ["/setup/history", "History"],
  ["/setup/about", "About"],
];

const parts: Record<string, () => React.ReactNode> = {
  business: BusinessTab,
  locations: LocationsTab,
  "booking-page": BookingPageTab,
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
    <Page title="Setup">
      <Tabs label="Setup" items={tabs} />
      <Part />
    </Page>
  );
}
