import { config } from "zod";

// Nothing is compiled while the page runs: what the page may do forbids it. Said before the first schema is made.
config({ jitless: true });
