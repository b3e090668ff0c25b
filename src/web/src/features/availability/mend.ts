import type { Issue } from "../../api/setup";

/** On which page of a practitioner it is mended that they cannot be booked. */
function tabOf(codes: string[]): string {
  if (codes.includes("offShift")) return "rota";
  return codes.some((code) => code.startsWith("practitioner") && code !== "practitionerNotOnline") ? "calendar" : "";
}

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
      return `/team/${issue.mendId}/${tabOf(issue.reasons.map((reason) => reason.code))}`;
    case "qualifications":
      return "/team/qualifications";
    case "room":
    case "equipment":
      return "/rooms";
    case "services":
      return "/services";
    case "service":
      return issue.mendId || issue.serviceId ? `/services/${issue.mendId ?? issue.serviceId}` : "/services";
    default:
      return issue.serviceId ? `/services/${issue.serviceId}` : "/services";
  }
}
