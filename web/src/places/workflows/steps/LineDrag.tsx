/**
 * Lines dragged by their number. What follows the mouse is drawn by itself: while something is dragged, the lines are not
 * drawn again.
 */
import {
  DndContext,
  type DragEndEvent,
  DragOverlay,
  PointerSensor,
  pointerWithin,
  useDndContext,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import Box from '@mui/material/Box';
import { type CSSProperties, type ReactNode, useCallback } from 'react';

/** @param onDrop a line was let go over another one, after which it is to stand */
export function LineDrag({ onDrop, children }: { onDrop: (line: string, over: string) => void; children: ReactNode }) {
  // A click on the number stays one.
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const end = useCallback(
    ({ active, over }: DragEndEvent) => {
      if (over && over.id !== active.id) onDrop(String(active.id), String(over.id));
    },
    [onDrop],
  );
  return (
    <DndContext sensors={sensors} collisionDetection={pointerWithin} onDragEnd={end} accessibility={noWords}>
      {children}
      <DragOverlay dropAnimation={null}>
        <Carried />
      </DragOverlay>
    </DndContext>
  );
}

/** Without a mouse, lines are moved by Alt and the arrow keys, which say so themselves. */
const noWords = { screenReaderInstructions: { draggable: '' } };

function Carried() {
  const { active } = useDndContext();
  if (!active) return null;
  return (
    <Box
      sx={{
        bgcolor: 'background.paper',
        border: '1px solid',
        borderColor: 'primary.main',
        borderRadius: '10px',
        px: 1.5,
        py: 0.75,
        width: 'max-content',
        fontWeight: 650,
        cursor: 'grabbing',
      }}
    >
      {String(active.data.current?.words ?? '')}
    </Box>
  );
}

type ItemProps = { id: string; className: string | undefined; style: CSSProperties | undefined; children: ReactNode };

/** A line in the list, below which another may be let go. */
export function LineItem({ id, className, style, children }: ItemProps) {
  const { setNodeRef, isOver, active } = useDroppable({ id });
  const isTarget = isOver && active?.id !== id;
  return (
    <li
      ref={setNodeRef}
      id={`step-${id}`}
      data-line={id}
      className={[className, isTarget ? 'target' : ''].filter(Boolean).join(' ') || undefined}
      style={style}
    >
      {children}
    </li>
  );
}

type HandleProps = { id: string; words: string; disabled: boolean; children: ReactNode };

/** By what a line is taken. */
export function LineHandle({ id, words, disabled, children }: HandleProps) {
  const { setNodeRef, listeners } = useDraggable({ id, disabled, data: { words } });
  return (
    <div ref={setNodeRef} className={disabled ? 'handle' : 'handle movable'} {...listeners}>
      {children}
    </div>
  );
}
