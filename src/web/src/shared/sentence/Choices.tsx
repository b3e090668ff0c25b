import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useListCollection } from "@ark-ui/react/collection";
import { Listbox } from "@ark-ui/react/listbox";
import { useFilter } from "@ark-ui/react/locale";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { sentence } from "../../theme/recipes/sentence";
import { Box, Span } from "../layout";

const List = chakra(Listbox.Content);
const Item = chakra(Listbox.Item);
const Search = chakra(Listbox.Input);

/** One of several things to choose from. */
export type Option = { value: string; label: string; hint?: string | undefined };

/** More than these are searched while typing. */
const mostAtAGlance = 7;

type Props = { label: string; options: Option[]; value: string; onChoose: (value: string) => void };

/** A list to choose from, with the keys; a long one is searched while typing. */
export function Choices({ label, options, value, onChoose }: Props) {
  const styles = useSlotRecipe({ recipe: sentence })();
  const { contains } = useFilter({ sensitivity: "base" });
  const { collection, filter } = useListCollection({ initialItems: options, filter: contains });
  const isLong = options.length > mostAtAGlance;
  return (
    <Listbox.Root
      collection={collection}
      value={[value]}
      defaultHighlightedValue={value}
      onSelect={(details) => onChoose(details.value)}
    >
      <Listbox.Label asChild>
        <Span srOnly>{label}</Span>
      </Listbox.Label>
      {isLong && (
        <Search
          css={styles["search"]}
          autoFocus
          placeholder={t`Search`}
          aria-label={t`${label}: search`}
          onChange={(event) => filter(event.currentTarget.value)}
        />
      )}
      <List css={styles["list"]} autoFocus={!isLong}>
        {collection.items.map((item) => (
          <Item key={item.value} item={item} css={styles["option"]}>
            <Listbox.ItemText>{item.label}</Listbox.ItemText>
            {item.hint && <Span css={styles["hint"]}>{item.hint}</Span>}
          </Item>
        ))}
        {collection.items.length === 0 && (
          <Box css={styles["option"]}>
            <Trans>Nothing of that name.</Trans>
          </Box>
        )}
      </List>
    </Listbox.Root>
  );
}
