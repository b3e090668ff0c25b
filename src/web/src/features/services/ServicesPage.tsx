import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { type Category, type Service } from "../../api/setup";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";

import { Outcome, useChange } from "../../shared/change";
import { SelectField, TextField } from "../../shared/Field";
import { money } from "../../shared/format";
import { Later } from "../../shared/Later";
import { NumberField } from "../../shared/inputs";
import { Box, Empty, Page, Panel, Row, Split, Stack, Tabs, asForm } from "../../shared/layout";
import { Plain } from "../../shared/Plain";
import { Press } from "../../shared/Press";
import { Sortable } from "../../shared/Sortable";
import { sayProblem } from "../../shared/toasts";
import { useDeskSetup } from "../../shared/today";
import { useCategories } from "./categories";
import { CategoryForm } from "./CategoryForm";
import { useReadiness } from "../team/team";
import { useServices } from "../team/ServicesTab";
import { ServiceEditor } from "./ServiceEditor";
import { freshService, minutesOf, visibilities } from "./words";

export const serviceTabs: [string, string][] = [
  ["/services", t`Services`],
  ["/services/add-ons", t`Add-ons`],
  ["/services/promos", t`Promo codes`],
];

/** Categories and services in order, and the one that is open. */
export function ServicesPage() {
  const { id } = useParams();
  const services = useServices();
  const categories = useCategories();
  const navigate = useNavigate();
  const [archived, setArchived] = useState(false);
  const [marked, setMarked] = useState<string[]>([]);
  const [search] = useSearchParams();
  const [name, setName] = useState<string | null>(null);
  const addCategory = useChange(
    (wanted: string, headers) =>
      answerOf(
        staff.POST("/api/v1/setup/categories", { headers, body: { id: null, name: wanted, online: {}, version: 0 } }),
      ),
    () => setName(null),
  );
  const orderCategories = useChange(
    (ids: string[], headers) => answerOf(staff.PUT("/api/v1/setup/categories/order", { headers, body: { ids } })),
    undefined,
    sayProblem,
  );
  const order = useChange(
    ({ category, ids }: { category: string; ids: string[] }, headers) =>
      answerOf(
        staff.PUT("/api/v1/setup/categories/{id}/services/order", {
          params: { path: { id: category } },
          headers,
          body: { ids },
        }),
      ),
    undefined,
    sayProblem,
  );
  if (!services.data || !categories.data) return null;
  const shown = services.data.filter((service) => service.isArchived === archived);
  const first = categories.data[0];
  const openCategory = id ? null : search.get("category");
  const category = categories.data.find((other) => other.id === openCategory);
  // Until one is chosen the first is open, in the order the list has.
  const usual = categories.data.flatMap((other) => shown.filter((service) => service.categoryId === other.id))[0];
  const item = id ? services.data.find((service) => service.id === id) : usual;
  return (
    <Page
      title={t`Services`}
      actions={
        first && (
          <Press look="primary" onClick={() => void navigate("/services/new")}>
            <Trans>Add a service</Trans>
          </Press>
        )
      }
    >
      <Tabs label={t`Services`} items={serviceTabs} />
      <Split>
        <Stack gap="2.5">
          {categories.data.length === 0 && name === null && (
            <Empty>
              <Trans>
                Services stand in categories, such as Massage or Skin. Name the first one, or{" "}
                <Link to="/setup/import">
                  <Box as="span" textDecoration="underline">
                    bring in a list
                  </Box>
                </Link>
                .
              </Trans>
            </Empty>
          )}
          <Sortable
            items={categories.data}
            idOf={(category) => category.id!}
            nameOf={(category) => category.name ?? ""}
            onOrder={orderCategories.run}
          >
            {(category) => {
              const own = shown.filter((service) => service.categoryId === category.id);
              return (
                <Panel py="2" px="2.5" my="1" aria-label={category.name ?? ""}>
                  <Row justifyContent="space-between" flexWrap="nowrap">
                    <Box as="h2" fontSize="text">
                      {category.name}
                    </Box>
                    <Press
                      size="small"
                      look="quiet"
                      aria-pressed={openCategory === category.id}
                      aria-label={t`Rules of ${category.name ?? ""}`}
                      onClick={() => void navigate(`/services?category=${category.id}`)}
                    >
                      <Trans>Rules</Trans>
                    </Press>
                  </Row>

                  <Sortable
                    items={own}
                    idOf={(service) => service.id!}
                    nameOf={(service) => service.name ?? ""}
                    onOrder={(ids) => order.run({ category: category.id!, ids })}
                  >
                    {(service) => (
                      <ServiceLine
                        service={service}
                        isOpen={service.id === item?.id}
                        isMarked={marked.includes(service.id!)}
                        onMark={(on) =>
                          setMarked(on ? [...marked, service.id!] : marked.filter((other) => other !== service.id))
                        }
                      />
                    )}
                  </Sortable>
                </Panel>
              );
            }}
          </Sortable>
          {name === null ? (
            <Press look={first ? "quiet" : "primary"} onClick={() => setName("")}>
              <Trans>Add a category</Trans>
            </Press>
          ) : (
            <Panel
              {...asForm}
              onSubmit={(event) => {
                event.preventDefault();
                addCategory.run(name);
              }}
            >
              <TextField
                label={t`Name of the category`}
                autoFocus
                value={name}
                error={addCategory.errors["name"]}
                onChange={(e) => setName(e.target.value)}
              />
              <Row mt="2">
                <Press type="submit" look="primary">
                  <Trans>Add</Trans>
                </Press>
                <Press onClick={() => setName(null)}>
                  <Trans>Leave it</Trans>
                </Press>
              </Row>
              <Outcome change={addCategory} fields={["name"]} />
            </Panel>
          )}
          {services.data.some((service) => service.isArchived) && (
            <Press size="small" look="quiet" onClick={() => setArchived(!archived)}>
              {archived ? t`Show what is done now` : t`Show what is archived`}
            </Press>
          )}
        </Stack>
        <Later>
          {marked.length > 0 ? (
            <ManyForm ids={marked} categories={categories.data} onDone={() => setMarked([])} />
          ) : id === "new" && first ? (
            <ServiceEditor
              key="new"
              service={freshService(first.id!)}
              isNew
              onMade={(made) => void navigate(`/services/${made}`)}
            />
          ) : category ? (
            <CategoryForm
              key={category.id}
              category={category}
              isEmpty={services.data.every((service) => service.categoryId !== category.id)}
              onGone={() => void navigate("/services")}
            />
          ) : item ? (
            <ServiceEditor
              key={item.id}
              service={item}
              isNew={false}
              onMade={(made) => void navigate(`/services/${made}`)}
            />
          ) : (
            <Empty>
              {services.data.length === 0
                ? t`No service yet.`
                : t`Choose a service to change it, or mark several to change one thing on all of them.`}
            </Empty>
          )}
        </Later>
      </Split>
    </Page>
  );
}

function ServiceLine({
  service,
  isOpen,
  isMarked,
  onMark,
}: {
  service: Service;
  isOpen: boolean;
  isMarked: boolean;
  onMark: (on: boolean) => void;
}) {
  const setup = useDeskSetup();
  const readiness = useReadiness();
  const issue = readiness.data?.issues.find((other) => other.serviceId === service.id);
  return (
    <Row flexWrap="nowrap" gap="1.5" bg={isOpen ? "glow" : "transparent"} borderRadius="mark" pr="1">
      <Link to={`/services/${service.id}`} style={{ flex: 1, minWidth: 0 }} aria-current={isOpen ? "page" : undefined}>
        <Box py="1">
          <Box fontWeight="600">
            {issue && (
              <Box
                as="span"
                color="clay"
                aria-label={issue.stops ? t`cannot be booked` : t`cannot be booked from some day on`}
              >
                !{" "}
              </Box>
            )}
            {service.name}
          </Box>
          <Box fontSize="small" color="quiet">
            <Trans>
              {minutesOf(service)} min ·{" "}
              {service.priceForm === "onRequest"
                ? t`on request`
                : service.priceForm === "free"
                  ? t`free`
                  : money({ amount: service.price, currency: setup.currency })}
              {service.visibility !== "everyone" && ` · ${visibilities[service.visibility]}`}
            </Trans>
          </Box>
        </Box>
      </Link>
      <input
        type="checkbox"
        aria-label={t`Mark ${service.name ?? ""}`}
        checked={isMarked}
        onChange={(e) => onMark(e.target.checked)}
        style={{ width: 18, height: 18 }}
      />
    </Row>
  );
}

/** One thing set on many services at once. */
function ManyForm({ ids, categories, onDone }: { ids: string[]; categories: Category[]; onDone: () => void }) {
  const [what, setWhat] = useState("visibility");
  const [value, setValue] = useState<string | number | null>("everyone");
  const save = useChange(
    (_: null, headers) =>
      answerOf(
        staff.POST("/api/v1/setup/services/many", {
          headers,
          body: { ids, [what]: what === "isArchived" ? value === "true" : value },
        }),
      ),
    onDone,
  );
  const choose = (next: string) => {
    setWhat(next);
    setValue(
      next === "visibility"
        ? "everyone"
        : next === "categoryId"
          ? (categories[0]?.id ?? null)
          : next === "isArchived"
            ? "true"
            : null,
    );
  };
  return (
    <Panel aria-label={t`Many at once`} position="sticky" top="0">
      <Box as="h2" fontSize="text" mb="2">
        <Trans>Set one thing on {plural(ids.length, { one: "# service", other: "# services" })}</Trans>
      </Box>
      <Row alignItems="end">
        <Box w="55">
          <SelectField label={t`What`} value={what} onChange={(e) => choose(e.target.value)}>
            <option value="visibility">
              <Trans>who sees it online</Trans>
            </option>
            <option value="categoryId">
              <Trans>category</Trans>
            </option>
            <option value="bufferBeforeMinutes">
              <Trans>buffer before</Trans>
            </option>
            <option value="bufferAfterMinutes">
              <Trans>buffer after</Trans>
            </option>
            <option value="leadMinutes">
              <Trans>lead time</Trans>
            </option>
            <option value="horizonDays">
              <Trans>how far ahead</Trans>
            </option>
            <option value="pricePercent">
              <Trans>price, up or down</Trans>
            </option>
            <option value="isArchived">
              <Trans>archived</Trans>
            </option>
          </SelectField>
        </Box>
        <Box w="55">
          {what === "visibility" || what === "categoryId" || what === "isArchived" ? (
            <SelectField label={t`To`} value={String(value)} onChange={(e) => setValue(e.target.value)}>
              {what === "visibility" &&
                Object.entries(visibilities).map(([key, words]) => (
                  <option key={key} value={key}>
                    {words}
                  </option>
                ))}
              {what === "categoryId" &&
                categories.map((category) => (
                  <option key={category.id} value={category.id!}>
                    {category.name}
                  </option>
                ))}
              {what === "isArchived" && [
                <option key="y" value="true">
                  <Trans>archived</Trans>
                </option>,
                <option key="n" value="false">
                  <Trans>done again</Trans>
                </option>,
              ]}
            </SelectField>
          ) : (
            <NumberField
              label={what === "pricePercent" ? t`Percent` : what === "horizonDays" ? t`Days` : t`Minutes`}
              min={what === "pricePercent" ? -90 : 0}
              step={what.startsWith("buffer") ? 5 : 1}
              value={value as number | null}
              error={save.errors[what]}
              onChange={setValue}
            />
          )}
        </Box>
        <Press look="primary" disabled={value === null || save.pending} onClick={() => save.run(null)}>
          <Trans>Set it</Trans>
        </Press>
        <Plain onClick={onDone} textDecoration="underline" cursor="pointer">
          <Trans>Unmark all</Trans>
        </Plain>
      </Row>
      <Outcome change={save} fields={[what]} />
    </Panel>
  );
}
