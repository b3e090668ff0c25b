import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { asks } from "../../api/queries";
import { chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useId, useState, type KeyboardEvent } from "react";
import type { Client, Visit } from "../../api/staff";

const Box = chakra("div");
const Input = chakra("input");

/** Something that words may mean. */
export type Found = {
  key: string;
  label: string;
  alert?: string;
  hint?: string;
  /** Whether it can mean nothing else, and so stands before the clients. */
  isFirst?: boolean;
  onChoose: () => void;
};

type Props = {
  id?: string;
  label: string;
  slash?: boolean;
  autoFocus?: boolean;
  onChoose: (client: Client) => void;
  onNone?: (typed: string) => void;
  /** What else the words may mean. */
  more?: (typed: string) => Found[];
  /** Where what one usually has is offered too, and who takes it. */
  usual?: { locationId: string; onTake: (client: Client, usual: Visit) => void };
};

/** Finds clients by any words of name, number or address while one types. */
export function ClientSearch({ id, label, slash, autoFocus, onChoose, onNone, more, usual }: Props) {
  const own = useId();
  const inputId = id ?? own;
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const search = useDeferredValue(text.trim());
  const found = useQuery({
    ...asks.clients(search),
    enabled: search.length >= 2,
    placeholderData: (before) => before,
  });
  const clients = search.length >= 2 ? (found.data ?? []) : [];
  const isFound = search.length >= 2 && found.isSuccess;
  const only = usual && clients.length === 1 ? clients[0]! : null;
  const again = useQuery({ ...asks.again(only?.id ?? "", usual?.locationId ?? null), enabled: only !== null });
  const had = only ? again.data?.usual : null;
  const others = search.length >= 1 ? (more?.(search) ?? []) : [];
  // What can mean nothing else stands first; what may mean something else waits until the clients are there.
  const options: Found[] = [
    ...others.filter(({ isFirst }) => isFirst),
    ...clients.map((client) => ({
      key: client.id,
      label: `${client.givenName} ${client.familyName}`,
      ...(client.alert && { alert: client.alert }),
      hint: [client.phone, client.email].filter(Boolean).join(" · ") || t`no number, no address`,
      onChoose: () => onChoose(client),
    })),
    ...(isFound ? others.filter(({ isFirst }) => !isFirst) : []),
    // Below those found stands the way to enter somebody new.
    ...(isFound && onNone
      ? [
          {
            key: "none",
            label: t`Enter a new client`,
            ...(clients.length === 0 && { hint: t`Nobody of that name, number or address.` }),
            onChoose: () => onNone(text.trim()),
          },
        ]
      : []),
    // It comes later than the rest, and moves none of it.
    ...(only && had
      ? [
          {
            key: "usual",
            label: t`The usual: ${had.lines.map((line) => line.service).join(" + ")}`,
            hint: t`see where it fits`,
            onChoose: () => usual!.onTake(only, had),
          },
        ]
      : []),
  ];
  const open = isFound || options.length > 0;
  const choose = (option: Found) => {
    setText("");
    option.onChoose();
  };
  const press = (event: KeyboardEvent) => {
    const chosen = options[at];
    if (!open && event.key !== "Escape") return;
    if (event.key === "ArrowDown") setAt(Math.min(at + 1, options.length - 1));
    else if (event.key === "ArrowUp") setAt(Math.max(at - 1, 0));
    else if (event.key === "Enter" && chosen) choose(chosen);
    else if (event.key === "Escape" && text) setText("");
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Box position="relative">
      <Input
        id={inputId}
        role="combobox"
        aria-label={label}
        aria-expanded={open}
        aria-controls={`${inputId}-list`}
        aria-activedescendant={options[at] ? `${inputId}-${at}` : undefined}
        aria-autocomplete="list"
        autoComplete="off"
        autoFocus={autoFocus}
        placeholder={slash ? t`Find a client, a visit, a day …   /` : t`Name, number or e-mail`}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
        }}
        onKeyDown={press}
        w="100%"
        h="9"
        px="2.5"
        bg="paper"
        borderWidth="line"
        borderColor="edge"
        borderRadius="card"
        _placeholder={{ color: "quiet", opacity: 1 }}
      />
      <Box
        id={`${inputId}-list`}
        role="listbox"
        aria-label={t`Clients found`}
        hidden={!open}
        position="absolute"
        zIndex={30}
        top="10"
        insetX="0"
        minW="70"
        maxH="85"
        overflowY="auto"
        bg="sheet"
        borderWidth="line"
        borderColor="edge"
        borderRadius="card"
        boxShadow="floating"
      >
        {options.map((option, i) => (
          <Box
            key={option.key}
            id={`${inputId}-${i}`}
            role="option"
            aria-selected={i === at}
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => choose(option)}
            px="3"
            py="1.5"
            cursor="pointer"
            bg={i === at ? "glow" : undefined}
          >
            <Box fontWeight="600">
              {option.label}
              {option.alert && (
                <Box as="span" color="clay">
                  {" "}
                  ! {option.alert}
                </Box>
              )}
            </Box>
            {option.hint && (
              <Box fontSize="small" color="quiet">
                {option.hint}
              </Box>
            )}
          </Box>
        ))}
        {options.length === 0 && (
          <Box role="option" aria-selected={false} px="3" py="2">
            <Trans>Nobody of that name, number or address.</Trans>
          </Box>
        )}
      </Box>
    </Box>
  );
}
