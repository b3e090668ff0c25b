import { t } from "@lingui/core/macro";
import type { components } from "../../api/generated/schema";

type Schemas = components["schemas"];

/** How firmly somebody likes to be treated, in words. */
export const pressures: Record<NonNullable<Schemas["Pressure"]>, string> = {
  light: t`light pressure`,
  medium: t`medium pressure`,
  firm: t`firm pressure`,
};

/** What a client may agree to. */
export const consents: Record<Schemas["ConsentKind"], string> = {
  texts: t`Text messages about visits`,
  news: t`News and offers`,
  pictures: t`Pictures of treatments`,
};

/** Why two records are likely of one person. */
export const likeness: Record<Schemas["LikenessReason"], string> = {
  sameName: t`the same name`,
  namesSwapped: t`the names the other way round`,
  nearName: t`nearly the same name`,
  shortName: t`a short form of the name`,
  otherFamilyName: t`the same given name`,
  sameEmail: t`the same e-mail address`,
  samePhone: t`the same number`,
  sameBirthday: t`born on the same day`,
  otherBirthday: t`but born on different days`,
};
