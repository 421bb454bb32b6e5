/** Lists whose entries are put in order by dragging a handle, or by its space and arrow keys. */
import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type CollisionDetection,
  type DragEndEvent,
  type KeyboardCoordinateGetter,
} from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { IconGripVertical } from '@tabler/icons-react';
import { useMemo, type CSSProperties, type ReactNode } from 'react';

const START_PX = 4;

/** Entries may be of any height, an open one among closed: it is their heads that meet. */
const closestHead: CollisionDetection = ({ collisionRect, droppableRects, droppableContainers }) =>
  droppableContainers
    .flatMap((droppableContainer) => {
      const { id } = droppableContainer;
      const rect = droppableRects.get(id);
      if (!rect) return [];
      return [{ id, data: { droppableContainer, value: Math.abs(rect.top - collisionRect.top) } }];
    })
    .sort((a, b) => a.data.value - b.data.value);

/** An arrow key goes to where the head of the next entry is. */
const toNextHead: KeyboardCoordinateGetter = (event, { context, currentCoordinates }) => {
  const { collisionRect, droppableRects } = context;
  const down = event.code === 'ArrowDown';
  if (!collisionRect || (!down && event.code !== 'ArrowUp')) return undefined;
  event.preventDefault();
  const ways = [...droppableRects.values()]
    .map((rect) => rect.top - collisionRect.top)
    .filter((way) => (down ? way > 1 : way < -1));
  if (ways.length === 0) return undefined;
  const way = down ? Math.min(...ways) : Math.max(...ways);
  return { ...currentCoordinates, y: currentCoordinates.y + way };
};

interface Props {
  ids: string[];
  /** An entry has been let go at another place. */
  move: (id: string, index: number) => void;
  children: ReactNode;
}

export function Reorder({ ids, move, children }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: START_PX } }),
    useSensor(KeyboardSensor, { coordinateGetter: toNextHead }),
  );
  const end = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id) move(String(active.id), ids.indexOf(String(over.id)));
  };
  return (
    <DndContext sensors={sensors} collisionDetection={closestHead} onDragEnd={end}>
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        {children}
      </SortableContext>
    </DndContext>
  );
}

/** Where an entry is drawn while it or another is dragged, and the handle that drags it. */
export function useReorder(id: string, label: string) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition } =
    useSortable({ id });
  const style: CSSProperties = {
    transform: transform ? `translateY(${transform.y}px)` : undefined,
    transition,
  };
  // The same as long as it can be: who draws it is then not drawn anew.
  const handle = useMemo(
    () => (
      <button
        type="button"
        className="reorder-handle"
        ref={setActivatorNodeRef}
        {...attributes}
        {...listeners}
        aria-label={`Place of ${label}`}
        title="Drag to another place"
      >
        <IconGripVertical size={14} aria-hidden="true" />
      </button>
    ),
    [attributes, listeners, setActivatorNodeRef, label],
  );
  return { ref: setNodeRef, style, handle };
}
