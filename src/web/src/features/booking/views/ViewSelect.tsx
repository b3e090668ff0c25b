import { t } from "@lingui/core/macro";
import { chakra } from "@chakra-ui/react";
import { useNavigate } from "react-router";

const Select = chakra("select", {
  base: { h: "9", px: "2", borderWidth: "line", borderColor: "edge", borderRadius: "card", bg: "sheet" },
});

export type View = "day" | "week" | "month" | "agenda";

/** The ways to look at the book, each with an address of its own. */
export const views: Record<View, string> = { day: t`Day`, week: t`Week`, month: t`Month`, agenda: t`Agenda` };

/** Looks at the same place and date another way. */
export function ViewSelect({ view, locationId, date }: { view: View; locationId: string; date: string }) {
  const navigate = useNavigate();
  return (
    <Select
      aria-label={t`View`}
      value={view}
      onChange={(event) => void navigate(`/${event.target.value}/${locationId}/${date}`)}
    >
      {Object.entries(views).map(([key, name]) => (
        <option key={key} value={key}>
          {name}
        </option>
      ))}
    </Select>
  );
}
