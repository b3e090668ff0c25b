import { t } from "@lingui/core/macro";
import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import type { ReactNode } from "react";
import { Box, Row } from "./layout";
import { Plain } from "./Plain";

type Props<T> = {
  items: readonly T[];
  idOf: (item: T) => string;
  nameOf: (item: T) => string;
  onOrder: (ids: string[]) => void;
  children: (item: T) => ReactNode;
};

/** A list put in order by dragging its handles, or with the keyboard: Space, arrows, Space. */
export function Sortable<T>({ items, idOf, nameOf, onOrder, children }: Props<T>) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const ids = items.map(idOf);
  const drop = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    onOrder(arrayMove(ids, ids.indexOf(String(active.id)), ids.indexOf(String(over.id))));
  };
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        {items.map((item, place) => (
          <Line key={idOf(item)} id={idOf(item)} name={nameOf(item)} place={place + 1}>
            {children(item)}
          </Line>
        ))}
      </SortableContext>
    </DndContext>
  );
}

function Line({ id, name, place, children }: { id: string; name: string; place: number; children: ReactNode }) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id });
  return (
    <Row
      ref={setNodeRef}
      flexWrap="nowrap"
      gap="1"
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      <Plain
        {...attributes}
        {...listeners}
        aria-label={t`${place}: move ${name}`}
        title={t`Drag to put in order`}
        cursor="grab"
        w="6"
        h="8"
        color="quiet"
        flexShrink={0}
        touchAction="none"
      >
        {place}
      </Plain>
      <Box flex="1" minW="0">
        {children}
      </Box>
    </Row>
  );
}
