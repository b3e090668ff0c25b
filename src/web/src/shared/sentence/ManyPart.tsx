import { createListCollection } from "@ark-ui/react/collection";
import { Listbox } from "@ark-ui/react/listbox";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { sentence } from "../../theme/recipes/sentence";
import { Span } from "../layout";
import type { Option } from "./Choices";
import { Part } from "./Sentence";

const List = chakra(Listbox.Content);
const Item = chakra(Listbox.Item);

type Props = {
  label: string;
  words: ReactNode;
  options: Option[];
  values: string[];
  onChange: (values: string[]) => void;
};

/** An underlined part of which several things can be chosen; it stays open until one is through. */
export function ManyPart({ label, words, options, values, onChange }: Props) {
  const styles = useSlotRecipe({ recipe: sentence })();
  return (
    <Part label={label} words={words} differs={values.length > 0}>
      {() => (
        <Listbox.Root
          collection={createListCollection({ items: options })}
          selectionMode="multiple"
          value={values}
          onValueChange={(details) => onChange(details.value)}
        >
          <Listbox.Label asChild>
            <Span srOnly>{label}</Span>
          </Listbox.Label>
          <List css={styles["list"]} autoFocus>
            {options.map((option) => (
              <Item key={option.value} item={option} css={styles["option"]}>
                <Listbox.ItemText>
                  {values.includes(option.value) ? "✓ " : ""}
                  {option.label}
                </Listbox.ItemText>
              </Item>
            ))}
          </List>
        </Listbox.Root>
      )}
    </Part>
  );
}
