import { t } from "@lingui/core/macro";

/** A refusal of the server (RFC 9457) as the screens use it. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly field: string | undefined,
    readonly body: Record<string, unknown>,
  ) {
    super(message);
  }

  /** Messages by field path. */
  get errors(): Record<string, string> {
    const all = this.body["errors"] as Record<string, string[]> | undefined;
    if (all) return Object.fromEntries(Object.entries(all).map(([field, messages]) => [field, messages[0] ?? ""]));
    return this.field ? { [this.field]: this.message } : {};
  }
}

/** Gives the data of an answer, or throws what the server refused. */
export async function answerOf<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let result;
  try {
    result = await call;
  } catch {
    throw new Problem(0, "offline", t`The connection is gone. Nothing was lost; try again in a moment.`, undefined, {});
  }
  if (result.response.ok) return result.data as T;
  const body = (typeof result.error === "object" && result.error !== null ? result.error : {}) as Record<
    string,
    unknown
  >;
  throw new Problem(
    result.response.status,
    String(body["code"] ?? "failed"),
    String(body["detail"] ?? t`Something went wrong. Nothing was changed; try again.`),
    typeof body["field"] === "string" ? body["field"] : undefined,
    body,
  );
}
