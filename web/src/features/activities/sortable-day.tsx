import {
  DndContext,
  PointerSensor,
  pointerWithin,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { GripVertical } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { createPortal } from 'react-dom';

/** Where a line is dropped that is to come before all else. */
const TOP = 'top';

interface DayProps {
  /** Hears which line is dropped on which other, or on the top of the day (`undefined`). */
  drop: (line: string, on: string | undefined) => void;
  children?: ReactNode;
}

/** Stands over the head of the page, beside what is scrolled: it is where it is seen while the lines roll by. */
function Top() {
  const { setNodeRef, isOver } = useDroppable({ id: TOP });
  const page = document.querySelector('.today');
  if (!page) return null;
  return createPortal(
    <div ref={setNodeRef} className={isOver ? 'work-top work-top-over' : 'work-top'} aria-hidden>
      Drop here to do it first
    </div>,
    page,
  );
}

/** A day whose lines are dragged by their grips to where others are, or to its top. */
export function SortableDay({ drop, children }: DayProps) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const [isDragging, setDragging] = useState(false);
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={pointerWithin}
      onDragStart={() => setDragging(true)}
      onDragCancel={() => setDragging(false)}
      onDragEnd={({ active, over }) => {
        setDragging(false);
        if (over && over.id !== active.id)
          drop(String(active.id), over.id === TOP ? undefined : String(over.id));
      }}
    >
      {isDragging && <Top />}
      {children}
    </DndContext>
  );
}

interface LineProps {
  line: string;
  draw: (grip?: ReactNode) => ReactNode;
}

export function SortableLine({ line, draw }: LineProps) {
  const { setNodeRef, setActivatorNodeRef, listeners, isDragging, transform } = useDraggable({ id: line });
  const { setNodeRef: setPlaceRef, isOver } = useDroppable({ id: line });
  const grip = (
    <span
      ref={setActivatorNodeRef}
      className="work-grip"
      title="Drag to another place"
      {...listeners}
      aria-hidden
    >
      <GripVertical size={14} />
    </span>
  );
  return (
    <div ref={setPlaceRef} className={isOver && !isDragging ? 'work-over' : ''}>
      <div
        ref={setNodeRef}
        className={isDragging ? 'work-dragged' : ''}
        style={transform ? { transform: `translateY(${transform.y}px)` } : undefined}
      >
        {draw(grip)}
      </div>
    </div>
  );
}
