import { zodResolver } from "@hookform/resolvers/zod";
import { useEffect, useState } from "react";
import {
  useForm,
  useWatch,
  type DefaultValues,
  type FieldErrors,
  type FieldValues,
  type Path,
  type PathValue,
  type Resolver,
} from "react-hook-form";
import { ZodNullable, ZodString, type ZodObject, type ZodType } from "zod";
import { useFirstFault } from "./firstFault";
import type { Problem } from "./problem";
import { limitWords } from "./limitWords";

type Versioned = { version?: number | string | undefined };

/**
 * What somebody is writing over what is stored. A newer state of the server replaces a draft nobody has touched; one that
 * was touched stays, and saving it then says that somebody else was quicker.
 * @param shape What the server takes, with the limits it states; read from its API document, so that nothing is said twice.
 */
export function useDraft<T extends Versioned>(stored: T, shape: ZodType) {
  type Values = T & FieldValues;
  const form = useForm<Values>({
    defaultValues: stored as DefaultValues<Values>,
    resolver: zodResolver(shape as never, { error: limitWords }, { raw: true }) as unknown as Resolver<Values>,
  });
  const draft = useWatch({ control: form.control });
  const { isDirty, defaultValues, errors, submitCount } = form.formState;
  const [refusals, setRefusals] = useState(0);
  useFirstFault(submitCount + refusals);
  const base = defaultValues as T;
  const isNewer = Number(stored.version ?? 0) > Number(base.version ?? 0);
  useEffect(() => {
    if (isNewer && !isDirty) form.reset(stored as Values);
  }, [isNewer, isDirty, form, stored]);
  const set = (change: Partial<T>) => {
    for (const [name, value] of Object.entries(change)) {
      form.clearErrors(name as Path<Values>);
      form.setValue(name as Path<Values>, value as PathValue<Values, Path<Values>>, { shouldDirty: true });
    }
  };
  return {
    draft: draft as T,
    base,
    dirty: isDirty,
    /** Messages by field path, as the server names them; that of a field is gone when it is written again. */
    errors: messagesOf(errors),
    set,
    /** Whether somebody else has saved something since this was begun. */
    isNewer,
    /** What they have where something was written here too. */
    theirs: theirsWhereBoth(shape, base, draft as T, stored),
    /** Goes on from what they have saved; what was written here stays, unless it is dropped. */
    goOn: (withMine: boolean) => {
      const mine = changedIn(base, draft as T);
      form.reset(stored as Values);
      if (withMine) set(mine);
    },
    undo: () => form.reset(),
    /** What the server has kept is what is stored now. */
    keep: (next: T) => form.reset(next as Values),
    /** Goes on when nothing is beyond the limits the server states. */
    whenWithin: (go: () => void) => void form.handleSubmit(() => go())(),
    /** Puts what the server refused at its fields. */
    refuse: (problem: Problem) => {
      for (const [field, message] of Object.entries(problem.errors)) {
        form.setError(field as Path<Values>, { type: "server", message });
      }
      setRefusals((times) => times + 1);
    },
  };
}

const isSame = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other);

/** The fields in which something was written over what is stored. */
export const changedIn = <T extends object>(base: T, draft: T) =>
  Object.fromEntries(
    Object.entries(draft).filter(([field, value]) => !isSame(value, base[field as keyof T])),
  ) as Partial<T>;

/** What somebody else has saved in fields where something was written here too: texts, and whether there is more. */
export type Theirs = { texts: string[]; more: boolean };

/** What clashes. Only texts are said: a figure, a choice or a list means nothing without its field. */
export function theirsWhereBoth<T extends object>(shape: ZodType, base: T, draft: T, stored: T): Theirs {
  const mine = changedIn(base, draft);
  const clashes = Object.entries(changedIn(base, stored)).filter(
    ([field, value]) => field in mine && !isSame(value, draft[field as keyof T]),
  );
  const texts = clashes.flatMap(([field, value]) => (typeof value === "string" && isText(shape, field) ? [value] : []));
  return { texts, more: texts.length < clashes.length };
}

/** Whether the server states of a field how long a text in it may be; of codes and identities it does not. */
function isText(shape: ZodType, field: string): boolean {
  const part = (shape as ZodObject).shape[field] as ZodType | undefined;
  const inner = part instanceof ZodNullable ? part.unwrap() : part;
  return inner instanceof ZodString && inner.maxLength !== null && inner.maxLength <= 500;
}

/** Takes apart what is wrong, by path: phases[1].minutes. */
export function messagesOf(errors: FieldErrors, path = ""): Record<string, string> {
  return Object.fromEntries(
    Object.entries(errors).flatMap(([name, inside]): [string, string][] => {
      if (typeof inside !== "object" || inside === null) return [];
      const at = /^\d+$/.test(name) ? `${path}[${name}]` : path ? `${path}.${name}` : name;
      const own: [string, string][] =
        "message" in inside && typeof inside.message === "string" ? [[at, inside.message]] : [];
      return [...own, ...Object.entries(messagesOf(inside as FieldErrors, at))];
    }),
  );
}
