import type { Begin } from "./beginning";

/** What every sentence of the guide works on. */
export type GuideProps = {
  draft: Begin;
  errors: Record<string, string>;
  onChange: (change: Partial<Begin>) => void;
};
