import type { Schemas } from "../../api/client";

type Block = Schemas["BlockOut"];

/** A block step by step, in the order in which it is done: a row a round where its lines go in turn, else a row a line. */
export function Unfolded({ block }: { block: Block }) {
  const byRounds = block.columns.length > 0;
  const span = byRounds ? 1 : undefined;
  return (
    <table className="unfolded" aria-label={`${block.name}, set by set`}>
      {byRounds && (
        <thead>
          <tr>
            <th scope="col">
              <span className="visually-hidden">Round</span>
            </th>
            {block.columns.map((c) => (
              <th key={c} scope="col">
                {c}
              </th>
            ))}
            <th scope="col" className="right">
              then rest
            </th>
          </tr>
        </thead>
      )}
      <tbody>
        {block.rows.map((r) => {
          const inLine = !byRounds || r.warms_up;
          return (
            <tr key={r.name} className={r.warms_up ? "soft" : undefined}>
              <th scope="row">{r.name}</th>
              {inLine ? (
                <td className="num" colSpan={span && block.columns.length}>
                  {r.cells.map((cell, i) => (
                    <span key={i} className="set">
                      {cell}
                    </span>
                  ))}
                </td>
              ) : (
                r.cells.map((cell, i) => (
                  <td key={block.columns[i]} className="num">
                    {cell}
                  </td>
                ))
              )}
              <td className="right num soft nowrap">{r.then}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
