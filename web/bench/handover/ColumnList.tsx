"use client";
/** Columns of a file in their order, which is changed by dragging or with the arrow keys; decimals of each. */
import { useId } from "react";
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
import { attributeNames } from "@bramble/core/job/edit/attributed";
import { DEFAULT_COLUMNS, HANDOVER_COLUMNS, type HandoverColumn, type PointColumns } from "@bramble/core";
import { hasDecimals, pointColumnName } from "@bramble/core/handover/columns";
import { useParts } from "../../lib/store";
import { unless } from "../../controls/unless";
import { Choice } from "../../controls/fields/Choice";
import { Typed } from "../../controls/fields/Typed";

export function ColumnList({ file, edit }: { file: PointColumns; edit: (part: PointColumns) => void }) {
  const { job, view } = useParts("job", "view"),
    id = useId();
  const columns = file.columns ?? DEFAULT_COLUMNS,
    left = [...HANDOVER_COLUMNS, ...attributeNames({ job, view }).map((name): HandoverColumn => `attr:${name}`)].filter(
      (c) => !columns.includes(c),
    );
  const sensors = useSensors(
    // A click on the handle is no drag.
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const moved = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    const [from, to] = [active.id, over.id].map((x) => columns.indexOf(x as HandoverColumn)) as [number, number];
    edit({ columns: arrayMove(columns, from, to) });
  };
  const decimals = (c: HandoverColumn, text: string) => {
    const { [c]: _, ...others } = file.decimalsOf ?? {},
      next = text === "" ? others : { ...others, [c]: Number(text) };
    edit({ decimalsOf: Object.keys(next).length ? next : undefined });
  };
  return (
    <div className="mt-3 max-w-96">
      <div className="flex items-end justify-between">
        <span className="label">Columns, in this order</span>
        <span className="label pr-9">Decimals</span>
      </div>
      <DndContext id={id} sensors={sensors} collisionDetection={closestCenter} onDragEnd={moved}>
        <SortableContext items={columns} strategy={verticalListSortingStrategy}>
          <ol className="rows mt-0.5" aria-label="Columns in their order">
            {columns.map((c) => (
              <Row
                key={c}
                column={c}
                decimals={file.decimalsOf?.[c]}
                usual={hasDecimals(c) ? (file.decimals ?? 3) : undefined}
                setDecimals={(text) => decimals(c, text)}
                remove={columns.length > 1 ? () => edit({ columns: columns.filter((x) => x !== c) }) : undefined}
              />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      {left.length > 0 && (
        <Choice
          label="Add a column"
          named={false}
          low={false}
          width="mt-1.5"
          value=""
          onChange={(v) => edit({ columns: [...columns, v] })}
          ask="Add a column …"
          options={left.map((c) => [c, pointColumnName(c)] as const)}
        />
      )}
    </div>
  );
}

function Row({
  column,
  decimals,
  usual,
  setDecimals,
  remove,
}: {
  column: HandoverColumn;
  decimals: number | undefined;
  /** Of the whole file; undefined for columns that are texts. */
  usual: number | undefined;
  setDecimals: (text: string) => void;
  remove: (() => void) | undefined;
}) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: column }),
    words = pointColumnName(column),
    mayRound = usual !== undefined || column.startsWith("attr:");
  return (
    <li
      ref={setNodeRef}
      className={`row gap-2 bg-bench ${isDragging ? "relative z-10 shadow-sm outline outline-bramble" : ""}`}
      style={{ transform: transform ? `translate3d(0, ${transform.y}px, 0)` : undefined, transition }}
    >
      <button
        {...attributes}
        {...listeners}
        className="h-6 cursor-grab touch-none px-1 text-soft"
        aria-label={`Move ${words}`}
        title="Drag it, or press space and use the arrow keys"
      >
        ⠿
      </button>
      <span className="min-w-0 flex-1 truncate">{words}</span>
      {mayRound && (
        <Typed
          label={`Decimals of ${words}`}
          named={false}
          text={String(decimals ?? "")}
          onType={(text) => /^(1[0-2]|\d)?$/.test(text) && setDecimals(text)}
          className="field num h-6! w-14"
          placeholder={usual === undefined ? "as is" : String(usual)}
          numeric
        />
      )}
      <button
        className="button button-plain h-6 px-1.5"
        aria-label={`Leave out ${words}`}
        {...unless(!remove && "A table has one column at least.")}
        onClick={remove}
      >
        ×
      </button>
    </li>
  );
}
