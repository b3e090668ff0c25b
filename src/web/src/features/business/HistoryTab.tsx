import { Panel } from "../../shared/layout";
import { Changes } from "./history/Changes";

/** Every change of the setup. */
export const HistoryTab = () => (
  <Panel>
    <Changes />
  </Panel>
);
