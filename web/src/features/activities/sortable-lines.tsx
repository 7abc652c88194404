import { DndContext, PointerSensor, useDraggable, useDroppable, useSensor, useSensors } from '@dnd-kit/core';
import { GripVertical } from 'lucide-react';
import { type ReactNode } from 'react';

interface Props {
  ids: readonly number[];
  /** Puts one where another is. */
  put: (id: number, at: number) => void;
  line: (id: number, grip: ReactNode) => ReactNode;
}

/** The lines of a list, each dragged by its grip to where another is. */
export default function SortableLines({ ids, put, line }: Props) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  return (
    <DndContext
      sensors={sensors}
      onDragEnd={({ active, over }) => {
        if (over && over.id !== active.id) put(Number(active.id), ids.indexOf(Number(over.id)));
      }}
    >
      {ids.map((id) => (
        <Sortable key={id} id={id} line={line} />
      ))}
    </DndContext>
  );
}

function Sortable({ id, line }: { id: number } & Pick<Props, 'line'>) {
  const { setNodeRef, setActivatorNodeRef, listeners, isDragging, transform } = useDraggable({ id });
  const { setNodeRef: setPlaceRef, isOver } = useDroppable({ id });
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
        {line(id, grip)}
      </div>
    </div>
  );
}
