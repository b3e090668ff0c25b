import type { Issue } from "../../api/setup";

/** Where an issue is mended. */
export function mendPath(issue: Issue): string {
  switch (issue.mend) {
    case "locations":
    case "hours":
    case "rules":
    case "location":
      return "/setup/locations";
    case "business":
      return "/setup/booking-page";
    case "practitioners":
      return "/team";
    case "rota":
      return `/team/${issue.mendId}/rota`;
    case "practitioner":
      return `/team/${issue.mendId}/${issue.reasons.some((one) => one.code === "offShift") ? "rota" : issue.reasons.some((one) => one.code.startsWith("practitioner") && one.code !== "practitionerNotOnline") ? "calendar" : ""}`;
    case "qualifications":
      return "/team/qualifications";
    case "room":
    case "equipment":
      return "/rooms";
    case "services":
      return "/services";
    default:
      return issue.serviceId ? `/services/${issue.serviceId}` : "/services";
  }
}
