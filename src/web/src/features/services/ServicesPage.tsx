import { useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { type Category, type Service } from "../../api/setup";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";

import { Outcome, useChange } from "../../shared/change";
import { SelectField, TextField } from "../../shared/Field";
import { counted, money } from "../../shared/format";
import { Later } from "../../shared/Later";
import { NumberField } from "../../shared/inputs";
import { Box, Empty, Page, Panel, Row, Split, Stack, Tabs } from "../../shared/layout";
import { Plain } from "../../shared/Plain";
import { Press } from "../../shared/Press";
import { Sortable } from "../../shared/Sortable";
import { useDeskSetup } from "../../shared/today";
import { useCategories } from "./categories";
import { CategoryForm } from "./CategoryForm";
import { useReadiness } from "../team/team";
import { useServices } from "../team/ServicesTab";
import { ServiceEditor } from "./ServiceEditor";
import { freshService, minutesOf, visibilities } from "./words";

export const serviceTabs: [string, string][] = [
  ["/services", "Services"],
  ["/services/add-ons", "Add-ons"],
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
  const orderCategories = useChange((ids: string[], headers) =>
    answerOf(staff.PUT("/api/v1/setup/categories/order", { headers, body: { ids } })),
  );
  const order = useChange(({ category, ids }: { category: string; ids: string[] }, headers) =>
    answerOf(
      staff.PUT("/api/v1/setup/categories/{id}/services/order", {
        params: { path: { id: category } },
        headers,
        body: { ids },
      }),
    ),
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
      title="Services"
      actions={
        first && (
          <Press look="primary" onClick={() => void navigate("/services/new")}>
            Add a service
          </Press>
        )
      }
    >
      <Tabs label="Services" items={serviceTabs} />
      <Split>
        <Stack gap="10px">
          {categories.data.length === 0 && name === null && (
            <Empty>
              Services stand in categories, such as Massage or Skin. Name the first one, or{" "}
              <Link to="/setup/import">
                <Box as="span" textDecoration="underline">
                  bring in a list
                </Box>
              </Link>
              .
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
                <Panel p="8px 10px" my="4px" aria-label={category.name ?? ""}>
                  <Row justifyContent="space-between" flexWrap="nowrap">
                    <Box as="h2" fontSize="15px">
                      {category.name}
                    </Box>
                    <Press
                      size="small"
                      look="quiet"
                      aria-pressed={openCategory === category.id}
                      aria-label={`Rules of ${category.name}`}
                      onClick={() => void navigate(`/services?category=${category.id}`)}
                    >
                      Rules
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
              Add a category
            </Press>
          ) : (
            <Panel
              as="form"
              onSubmit={(event) => {
                event.preventDefault();
                addCategory.run(name);
              }}
            >
              <TextField
                label="Name of the category"
                autoFocus
                value={name}
                error={addCategory.errors["name"]}
                onChange={(e) => setName(e.target.value)}
              />
              <Row mt="8px">
                <Press type="submit" look="primary">
                  Add
                </Press>
                <Press onClick={() => setName(null)}>Leave it</Press>
              </Row>
              <Outcome change={addCategory} fields={["name"]} />
            </Panel>
          )}
          {services.data.some((service) => service.isArchived) && (
            <Press size="small" look="quiet" onClick={() => setArchived(!archived)}>
              {archived ? "Show what is done now" : "Show what is archived"}
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
                ? "No service yet."
                : "Choose a service to change it, or mark several to change one thing on all of them."}
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
    <Row flexWrap="nowrap" gap="6px" bg={isOpen ? "glow" : "transparent"} borderRadius="4px" pr="4px">
      <Link to={`/services/${service.id}`} style={{ flex: 1, minWidth: 0 }} aria-current={isOpen ? "page" : undefined}>
        <Box py="4px">
          <Box fontWeight="600">
            {issue && (
              <Box
                as="span"
                color="clay"
                aria-label={issue.stops ? "cannot be booked" : "cannot be booked from some day on"}
              >
                !{" "}
              </Box>
            )}
            {service.name}
          </Box>
          <Box fontSize="14px" color="quiet">
            {minutesOf(service)} min ·{" "}
            {service.priceForm === "onRequest"
              ? "on request"
              : service.priceForm === "free"
                ? "free"
                : money({ amount: service.price, currency: setup.currency })}
            {service.visibility !== "everyone" && ` · ${visibilities[service.visibility]}`}
          </Box>
        </Box>
      </Link>
      <input
        type="checkbox"
        aria-label={`Mark ${service.name}`}
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
    <Panel aria-label="Many at once" position="sticky" top="0">
      <Box as="h2" fontSize="17px" mb="8px">
        Set one thing on {counted(ids.length, "service")}
      </Box>
      <Row alignItems="end">
        <Box w="220px">
          <SelectField label="What" value={what} onChange={(e) => choose(e.target.value)}>
            <option value="visibility">who sees it online</option>
            <option value="categoryId">category</option>
            <option value="bufferBeforeMinutes">buffer before</option>
            <option value="bufferAfterMinutes">buffer after</option>
            <option value="leadMinutes">lead time</option>
            <option value="horizonDays">how far ahead</option>
            <option value="pricePercent">price, up or down</option>
            <option value="isArchived">archived</option>
          </SelectField>
        </Box>
        <Box w="220px">
          {what === "visibility" || what === "categoryId" || what === "isArchived" ? (
            <SelectField label="To" value={String(value)} onChange={(e) => setValue(e.target.value)}>
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
                  archived
                </option>,
                <option key="n" value="false">
                  done again
                </option>,
              ]}
            </SelectField>
          ) : (
            <NumberField
              label={what === "pricePercent" ? "Percent" : what === "horizonDays" ? "Days" : "Minutes"}
              min={what === "pricePercent" ? -90 : 0}
              step={what.startsWith("buffer") ? 5 : 1}
              value={value as number | null}
              error={save.errors[what]}
              onChange={setValue}
            />
          )}
        </Box>
        <Press look="primary" disabled={value === null || save.pending} onClick={() => save.run(null)}>
          Set it
        </Press>
        <Plain onClick={onDone} textDecoration="underline" cursor="pointer">
          Unmark all
        </Plain>
      </Row>
      <Outcome change={save} fields={[what]} />
    </Panel>
  );
}
