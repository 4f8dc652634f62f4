import { DndContext, KeyboardSensor, PointerSensor, closestCenter, useSensor, useSensors, type DragEndEvent } from "@dnd-kit/core";
import { SortableContext, arrayMove, sortableKeyboardCoordinates, useSortable, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";

import { clock } from "../../parts/dates";
import type { LaneData, Turn } from "./useRoom";

interface Props {
  lane: LaneData;
  now: number;
  worded: boolean;
  onCall: ((id: number) => void) | null;
  onLeave: (id: number) => void;
  onOrder: (ids: number[]) => void;
  /** Somebody with nothing left: what to do with them. */
  onOver?: (id: number) => void;
}

/** Who follows, what they lift, how long they have rested. Rows are dragged into another order; the next goes first, or somebody leaves. */
export function Rotation({ lane, now, worded, onCall, onLeave, onOrder, onOver }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  if (lane.turns.length === 0) return null;
  const ids = lane.turns.map((t) => t.athlete_id);
  const drop = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    onOrder(arrayMove(ids, ids.indexOf(Number(active.id)), ids.indexOf(Number(over.id))));
  };
  const names = new Map(lane.turns.map((t) => [t.athlete_id, t.name]));
  const say = (id: string | number) => names.get(Number(id)) ?? "";
  return (
    <div className="rotation">
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={drop}
        accessibility={{
          announcements: {
            onDragStart: ({ active }) => `${say(active.id)} taken.`,
            onDragOver: ({ over }) => (over ? `Over ${say(over.id)}.` : ""),
            onDragEnd: ({ active, over }) => (over ? `${say(active.id)} put at ${say(over.id)}.` : "Put back."),
            onDragCancel: () => "Put back.",
          },
          screenReaderInstructions: { draggable: "Space takes the row, the arrows move it, space puts it down." },
        }}
      >
        <SortableContext items={ids} strategy={verticalListSortingStrategy}>
          <ol className="list-unstyled m-0">
            {lane.turns.map((t) => (
              <Row key={t.athlete_id} turn={t} now={now} alone={ids.length < 2} onCall={onCall} onLeave={onLeave} onOver={onOver} />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      {worded && lane.word && <p className={`small m-0 ${lane.is_right ? "soft" : "clay"}`}>{lane.word}</p>}
    </div>
  );
}

interface RowProps {
  turn: Turn;
  now: number;
  alone: boolean;
  onCall: ((id: number) => void) | null;
  onLeave: (id: number) => void;
  onOver?: (id: number) => void;
}

function Row({ turn: t, now, alone, onCall, onLeave, onOver }: RowProps) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({ id: t.athlete_id });
  const calls = onCall && !t.is_up && !t.is_over;
  return (
    <li
      ref={setNodeRef}
      className={`${t.is_up ? "up" : ""}${isDragging ? " dragged" : ""}`}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      {alone ? (
        <span aria-hidden>▸</span>
      ) : (
        <button
          type="button"
          ref={setActivatorNodeRef}
          className="grip tap"
          {...attributes}
          {...listeners}
          aria-label={`Move in the order: ${t.name}`}
        >
          <span aria-hidden>≡</span>
        </button>
      )}
      <span className="who">
        {t.name}
        {t.heart && <small className="num d-block soft">{t.heart}</small>}
        {t.results && <small className="num d-block soft">{t.results}</small>}
      </span>
      {t.is_over && !t.is_finished && onOver ? (
        <button type="button" className="btn btn-link tap p-0 text-start" onClick={() => onOver(t.athlete_id)}>
          {t.what} …<span className="visually-hidden"> finish or add for {t.name}</span>
        </button>
      ) : (
        <span className="num">{t.what}</span>
      )}
      <span className="soft num">{t.last_done_at && !t.is_over ? clock(Math.max(0, (now - Date.parse(t.last_done_at)) / 1000)) : ""}</span>
      {calls ? (
        <button key="up" type="button" className="btn btn-plain tap" aria-label={`Up next: ${t.name}`} onClick={() => onCall(t.athlete_id)}>
          up
        </button>
      ) : (
        <button
          key="leave"
          type="button"
          className="btn btn-plain tap px-0 small"
          aria-label={`leave the rack: ${t.name}`}
          onClick={() => onLeave(t.athlete_id)}
        >
          leave
        </button>
      )}
    </li>
  );
}
