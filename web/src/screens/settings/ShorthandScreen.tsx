import type { Schemas } from "../../api/client";
import { useShorthand } from "../../api/hooks";
import { Failed, Loading } from "../../parts/states";

/** How a line is written, with the examples the reader itself understands. */
export default function ShorthandScreen() {
  const help = useShorthand();
  if (help.isPending) return <Loading what="the forms of a line" />;
  if (help.isLoadingError) return <Failed error={help.error} again={() => void help.refetch()} />;
  return (
    <div className="page">
      <h1>How a line is written</h1>
      <p className="soft">
        Sets × amount, then the load, then tempo, rest and clock. Spaces do not matter; x, × and * are the same; decimals take a point or a
        comma.
      </p>
      <div className="row g-3">
        <div className="col-lg-6">
          <Forms title="The load" rows={help.data.examples} />
        </div>
        <div className="col-lg-6">
          <Forms title="Amount, groups, tempo, rest and clock" rows={help.data.extras} />
          <div className="sheet mt-3">
            <table className="board">
              <caption className="pad fw-semibold text-body" style={{ captionSide: "top" }}>
                Eight methods
              </caption>
              <tbody>
                {help.data.methods.map((m) => (
                  <tr key={m.key}>
                    <th scope="row" className="text-body fw-semibold">
                      {m.name}
                    </th>
                    <td className="small">
                      {m.how}. Good for {m.good_for}. <span className="soft">{m.limits}.</span>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </div>
      </div>
    </div>
  );
}

function Forms({ title, rows }: { title: string; rows: Schemas["ExampleOut"][] }) {
  return (
    <div className="sheet">
      <table className="board">
        <caption className="pad fw-semibold text-body" style={{ captionSide: "top" }}>
          {title}
        </caption>
        <thead>
          <tr>
            <th>Typed</th>
            <th>Written</th>
            <th>Says</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.typed}>
              <td className="num" style={{ width: "36%" }}>
                {r.typed}
              </td>
              <td className="num soft">{r.written}</td>
              <td className="small">{r.says}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
