import { Popover } from "@ark-ui/react/popover";
import { Portal } from "@ark-ui/react/portal";
import { chakra, useRecipe } from "@chakra-ui/react";
import { useState, type ReactElement, type ReactNode } from "react";
import { floating } from "../theme/recipes/floating";

const Content = chakra(Popover.Content);

type Props = {
  /** What it is called for those who do not see it. */
  label: string;
  /** The button it opens from. */
  trigger: ReactElement;
  children: (close: () => void) => ReactNode;
  /** Called when it closes, whether or not something was chosen. */
  onClose?: () => void;
};

/** Something small that opens beside a button, over the page; Escape and a press elsewhere close it, and the focus goes back. */
export function Floating({ label, trigger, children, onClose }: Props) {
  const [open, setOpen] = useState(false);
  const base = useRecipe({ recipe: floating })();
  const close = () => {
    setOpen(false);
    onClose?.();
  };
  return (
    <Popover.Root
      open={open}
      onOpenChange={(details) => (details.open ? setOpen(true) : close())}
      positioning={{ placement: "bottom-start", gutter: 6 }}
      lazyMount
      unmountOnExit
    >
      <Popover.Trigger asChild>{trigger}</Popover.Trigger>
      <Portal>
        <Popover.Positioner>
          <Content css={base} aria-label={label}>
            {children(close)}
          </Content>
        </Popover.Positioner>
      </Portal>
    </Popover.Root>
  );
}

type AtProps = {
  label: string;
  /** Beside what it opens. */
  anchor: () => HTMLElement | null;
  onClose: () => void;
  children: ReactNode;
};

/** The same beside something that is no button of its own, such as a piece of a ribbon. It is open as long as it is there. */
export function FloatingAt({ label, anchor, onClose, children }: AtProps) {
  const base = useRecipe({ recipe: floating })();
  return (
    <Popover.Root
      open
      onOpenChange={(details) => {
        if (!details.open) onClose();
      }}
      // What stands beside it may be pressed meanwhile: another piece, another day.
      onInteractOutside={(event) => {
        if (anchor()?.contains(event.detail.originalEvent.target as Node)) event.preventDefault();
      }}
      finalFocusEl={anchor}
      positioning={{ placement: "bottom-start", gutter: 8, getAnchorElement: anchor }}
    >
      <Portal>
        <Popover.Positioner>
          <Content css={base} aria-label={label}>
            {children}
          </Content>
        </Popover.Positioner>
      </Portal>
    </Popover.Root>
  );
}
