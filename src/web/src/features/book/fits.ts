import type { Start } from "../../api/staff";

/** A start that fits, as the lanes light it; pressing it chooses it. */
export type Fit = { start: Start; chosen: boolean; choose: () => void };
