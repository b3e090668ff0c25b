import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { asks } from "../../api/queries";
import { chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useId, useState, type KeyboardEvent } from "react";
import { type Client } from "../../api/staff";

const Box = chakra("div");
const Input = chakra("input");

type Props = {
  id?: string;
  label: string;
  slash?: boolean;
  autoFocus?: boolean;
  onChoose: (client: Client) => void;
  onNone?: (typed: string) => void;
};

/** Finds clients by any words of name, number or address while one types. */
export function ClientSearch({ id, label, slash, autoFocus, onChoose, onNone }: Props) {
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
  const open = search.length >= 2 && found.isSuccess;
  const choose = (client: Client) => {
    setText("");
    onChoose(client);
  };
  // Below those found stands the way to enter somebody new.
  const last = onNone ? clients.length : clients.length - 1;
  const enter = () => {
    setText("");
    onNone?.(text.trim());
  };
  const press = (event: KeyboardEvent) => {
    if (!open && event.key !== "Escape") return;
    if (event.key === "ArrowDown") setAt(Math.min(at + 1, last));
    else if (event.key === "ArrowUp") setAt(Math.max(at - 1, 0));
    else if (event.key === "Enter" && clients[at]) choose(clients[at]);
    else if (event.key === "Enter" && onNone && at === clients.length) enter();
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
        aria-activedescendant={open && at <= last ? `${inputId}-${at}` : undefined}
        aria-autocomplete="list"
        autoComplete="off"
        autoFocus={autoFocus}
        placeholder={slash ? t`Find a client, number, address   /` : t`Name, number or e-mail`}
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
        {clients.map((client, i) => (
          <Box
            key={client.id}
            id={`${inputId}-${i}`}
            role="option"
            aria-selected={i === at}
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => choose(client)}
            px="3"
            py="1.5"
            cursor="pointer"
            bg={i === at ? "glow" : undefined}
          >
            <Box fontWeight="600">
              {client.givenName} {client.familyName}
              {client.alert && (
                <Box as="span" color="clay">
                  {" "}
                  ! {client.alert}
                </Box>
              )}
            </Box>
            <Box fontSize="small" color="quiet">
              {[client.phone, client.email].filter(Boolean).join(" · ") || t`no number, no address`}
            </Box>
          </Box>
        ))}
        {open && clients.length === 0 && !onNone && (
          <Box role="option" aria-selected={false} px="3" py="2">
            <Trans>Nobody of that name, number or address.</Trans>
          </Box>
        )}
        {open && onNone && (
          <Box
            id={`${inputId}-${clients.length}`}
            role="option"
            aria-selected={at === clients.length}
            onMouseDown={(event) => event.preventDefault()}
            onClick={enter}
            px="3"
            py="2"
            cursor="pointer"
            borderTopWidth={clients.length > 0 ? "line" : undefined}
            borderColor="line"
            bg={at === clients.length ? "glow" : undefined}
          >
            <Trans>{clients.length === 0 && t`Nobody of that name, number or address. `}Enter a new client</Trans>
          </Box>
        )}
      </Box>
    </Box>
  );
}
