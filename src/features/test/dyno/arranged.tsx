'use client';

import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { arrayMove, SortableContext, sortableKeyboardCoordinates, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { HolderOutlined } from '@ant-design/icons';
import type { ReactNode } from 'react';
import styles from './runs.module.css';

/** A list whose rows are dragged, or moved by keys, into the order they were driven. */
export function ArrangedRuns({
  ids,
  onArrange,
  children,
}: {
  ids: readonly string[];
  onArrange: (ids: readonly string[]) => void;
  children: ReactNode;
}) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const end = ({ active, over }: DragEndEvent): void => {
    if (!over || active.id === over.id) return;
    onArrange(arrayMove([...ids], ids.indexOf(String(active.id)), ids.indexOf(String(over.id))));
  };
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={end} id="runs-in-order">
      <SortableContext items={[...ids]} strategy={verticalListSortingStrategy}>
        {children}
      </SortableContext>
    </DndContext>
  );
}

/** One row of the list, with the grip it is moved by. */
export function Arranged({ id, name, movable, children }: { id: string; name: string; movable: boolean; children: ReactNode }) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id, disabled: !movable });
  return (
    <div
      ref={setNodeRef}
      className={styles['arranged']}
      data-dragging={isDragging}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      {movable && (
        <button type="button" className={styles['grip']} aria-label={`Move ${name} in the order of runs`} {...attributes} {...listeners}>
          <HolderOutlined />
        </button>
      )}
      <div className={styles['arrangedBody']}>{children}</div>
    </div>
  );
}
