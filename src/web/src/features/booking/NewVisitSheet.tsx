import { chakra } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState, type FormEvent } from "react";
import { staff, type Client, type DeskSetup } from "../../api/staff";
import { AreaField, SelectField, TextField } from "../../shared/Field";
import { money } from "../../shared/format";
import { ChoiceField } from "../../shared/inputs";
import { Press } from "../../shared/Press";
import { answerOf, Problem } from "../../shared/problem";
import { ClientSearch } from "../clients/ClientSearch";
import { acceptHeader, type Chosen, type Fit } from "./fits";
import { PractitionerField } from "./PractitionerField";
import { Refusal, Sheet } from "./Sheet";
import { StartList } from "./StartList";

const Box = chakra("div");
const Form = chakra("form");
type NewClient = { givenName: string; familyName: string; email: string; phone: string };

type Props = {
  setup: DeskSetup;
  location: DeskSetup["locations"][number];
  date: string;
  at: string | null;
  by: string | null;
  clientId: string | null;
  onFits: (fits: Fit[] | null) => void;
  onDay: (date: string) => void;
  onDone: (visitId: string) => void;
  onClient: (clientId: string) => void;
  onClose: () => void;
};

/** Books a visit: who, what, with whom, and one of the starts that really fit. */
export function NewVisitSheet({
  setup,
  location,
  date,
  at,
  by,
  clientId,
  onFits,
  onDay,
  onDone,
  onClient,
  onClose,
}: Props) {
  const queries = useQueryClient();
  const [client, setClient] = useState<Client | null>(null);
  const [fresh, setFresh] = useState<NewClient | null>(null);
  const [serviceId, setServiceId] = useState("");
  const [practitionerId, setPractitionerId] = useState(by ?? "");
  const [addOnIds, setAddOnIds] = useState<string[]>([]);
  const [start, setStart] = useState<Chosen | null>(null);
  // A start the server takes only over something, once its reasons were read.
  const [over, setOver] = useState<Chosen | null>(null);
  const [note, setNote] = useState("");
  // One key for one booking: pressing twice, or a repeat after a lost connection, books once.
  const [key, setKey] = useState(() => crypto.randomUUID());

  useQuery({
    queryKey: ["client-in-address", clientId],
    queryFn: async () => {
      const file = await answerOf(staff.GET("/api/v1/clients/{id}", { params: { path: { id: clientId! } } }));
      const found = { ...file, id: clientId! } as Client;
      setClient(found);
      return found;
    },
    enabled: clientId !== null && client === null,
  });

  const services = useMemo(
    () =>
      setup.services.filter(
        (service) => service.locationIds.includes(location.id) && (!by || service.practitionerIds.includes(by)),
      ),
    [setup, location, by],
  );
  const extras = services.find((service) => service.id === serviceId)?.addOns ?? [];
  const question = useMemo(
    () =>
      serviceId
        ? { locationId: location.id, serviceIds: [serviceId], practitionerId: practitionerId || null, addOnIds }
        : null,
    [location, serviceId, practitionerId, addOnIds],
  );
  const book = useMutation({
    mutationFn: () =>
      answerOf(
        staff.POST("/api/v1/visits", {
          params: { header: { "Idempotency-Key": key } },
          headers: acceptHeader(start),
          body: {
            locationId: location.id,
            start: start!.start,
            lines: [
              {
                serviceId,
                practitionerId: practitionerId || null,
                addOns: addOnIds.map((addOnId) => ({ addOnId, count: 1 })),
              },
            ],
            clientId: fresh ? null : (client?.id ?? null),
            newClient: fresh,
            note,
          },
        }),
      ),
    onSuccess: (visit) => {
      queries.setQueryData(["visit", visit.id], visit);
      void queries.invalidateQueries({ queryKey: ["day"] });
      onDone(visit.id);
    },
    onError: (error) => {
      // The request was answered, so the next one is another booking; a lost connection keeps its key.
      if (error instanceof Problem && error.status > 0) setKey(crypto.randomUUID());
      // What was read before is no longer how it stands.
      if (error instanceof Problem && error.code === "would-go-over") {
        setOver(start && typeof error.body["accept"] === "string" ? { ...start, accept: error.body["accept"] } : null);
        setStart(null);
      }
      for (const key of ["starts", "why-not"]) void queries.invalidateQueries({ queryKey: [key] });
    },
  });
  const problem = book.error instanceof Problem ? book.error : null;
  const errors = problem?.errors ?? {};
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!book.isPending && start) book.mutate();
  };
  const change = (value: Partial<NewClient>) => setFresh({ ...fresh!, ...value });
  return (
    <Sheet title="New visit" onClose={onClose}>
      <Form onSubmit={submit} noValidate display="grid" gap="12px">
        {client ? (
          <Box
            display="flex"
            justifyContent="space-between"
            alignItems="center"
            bg="paper"
            borderRadius="card"
            px="10px"
            py="7px"
          >
            <Box>
              <Box fontWeight="700">
                {client.givenName} {client.familyName}
              </Box>
              <Box fontSize="14px" color="quiet">
                {client.visits === 0 ? "new client" : `${client.visits} visits`}
                {client.noShows > 0 && ` · ${client.noShows} no-shows`}
              </Box>
              {client.alert && (
                <Box color="clay" fontWeight="600">
                  ! {client.alert}
                </Box>
              )}
            </Box>
            <Box display="flex" flexDirection="column">
              <Press size="small" look="quiet" onClick={() => onClient(client.id)}>
                Details
              </Press>
              <Press size="small" look="quiet" onClick={() => setClient(null)}>
                Change
              </Press>
            </Box>
          </Box>
        ) : fresh ? (
          <Box display="grid" gap="8px" role="group" aria-label="New client">
            <Box display="grid" gridTemplateColumns="1fr 1fr" gap="8px">
              <TextField
                label="Given name"
                autoFocus
                value={fresh.givenName}
                onChange={(e) => change({ givenName: e.target.value })}
                error={errors["newClient.givenName"]}
              />
              <TextField
                label="Family name"
                value={fresh.familyName}
                onChange={(e) => change({ familyName: e.target.value })}
                error={errors["newClient.familyName"]}
              />
            </Box>
            <TextField
              label="Mobile"
              type="tel"
              value={fresh.phone}
              onChange={(e) => change({ phone: e.target.value })}
              error={errors["newClient.phone"]}
            />
            <TextField
              label="E-mail"
              type="email"
              value={fresh.email}
              onChange={(e) => change({ email: e.target.value })}
              error={errors["newClient.email"]}
            />
            <Press size="small" look="quiet" onClick={() => setFresh(null)} justifySelf="start">
              Find a known client instead
            </Press>
          </Box>
        ) : (
          <Box>
            <Box fontWeight="600" fontSize="14px" mb="3px">
              Client
            </Box>
            <Box display="flex" gap="8px">
              <Box flex="1">
                <ClientSearch
                  label="Client"
                  autoFocus
                  onChoose={setClient}
                  onNone={(typed) => setFresh(named(typed))}
                />
              </Box>
              <Press onClick={() => setFresh(named(""))}>New</Press>
            </Box>
          </Box>
        )}
        <SelectField
          label="Service"
          value={serviceId}
          onChange={(e) => {
            setServiceId(e.target.value);
            setAddOnIds([]);
            setStart(null);
          }}
        >
          <option value="">Choose a service</option>
          {setup.categories.map((category) => {
            const within = services.filter((service) => service.categoryId === category.id);
            return (
              within.length > 0 && (
                <optgroup key={category.id} label={category.name}>
                  {within.map((item) => (
                    <option key={item.id} value={item.id}>
                      {item.name} · {money(item.price)}
                    </option>
                  ))}
                </optgroup>
              )
            );
          })}
        </SelectField>
        {extras.length > 0 && (
          <ChoiceField
            label="With"
            options={extras.map((extra) => [extra.id, `${extra.name} · ${money(extra.price)}`] as const)}
            chosen={addOnIds}
            onChange={(chosen) => {
              setAddOnIds(chosen);
              setStart(null);
            }}
          />
        )}
        <PractitionerField
          setup={setup}
          serviceId={serviceId}
          value={practitionerId}
          onChange={(next) => {
            setPractitionerId(next);
            setStart(null);
          }}
        />
        {question ? (
          <StartList
            question={question}
            date={date}
            zone={location.zone}
            near={at}
            chosen={start}
            onChoose={setStart}
            onFits={onFits}
            onDay={onDay}
          />
        ) : (
          <Box color="quiet">Choose a service, and the times that fit light up in the book.</Box>
        )}
        <AreaField label="Note" value={note} maxLength={2000} onChange={(e) => setNote(e.target.value)} />
        {problem && Object.keys(errors).every((field) => !field.startsWith("newClient")) && (
          <Refusal>
            {problem.message} <Reasons body={problem.body} />
            {over && !start && problem.code === "would-go-over" && (
              <Box mt="6px">
                <Press size="small" onClick={() => setStart(over)}>
                  Take {over.clock} all the same
                </Press>
              </Box>
            )}
          </Refusal>
        )}
        <Press type="submit" look="primary" disabled={!start || (!client && !fresh) || book.isPending}>
          {start ? `Book ${start.clock}${start.accept ? " all the same" : ""}` : "Book"}
        </Press>
        {start && !client && !fresh && (
          <Box fontSize="14px" color="quiet">
            Choose a client to book.
          </Box>
        )}
      </Form>
    </Sheet>
  );
}

/** The reasons a refusal carries, as sentences. */
export function Reasons({ body }: { body: Record<string, unknown> }) {
  const reasons = (body["reasons"] ?? []) as { text: string }[];
  return (
    <>
      {reasons
        .slice(0, 3)
        .map((reason) => reason.text)
        .join(" ")}
    </>
  );
}

function named(typed: string): NewClient {
  const words = typed.split(/\s+/).filter(Boolean);
  const isNumber = /^[+\d\s()-]+$/.test(typed);
  const isAddress = typed.includes("@");
  return {
    givenName: isNumber || isAddress ? "" : (words[0] ?? ""),
    familyName: isNumber || isAddress ? "" : words.slice(1).join(" "),
    email: isAddress ? typed : "",
    phone: isNumber ? typed : "",
  };
}
