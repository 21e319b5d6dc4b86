import { useWorking } from "../api/client";
import { Panel } from "../shell/Sheet";
import { Busy, ErrorText } from "../shell/States";

const origins: Record<string, string> = {
  measured: "measured",
  chosen: "chosen",
  sheet: "from the sheet",
  assumed: "assumed",
  computed: "computed",
};

/** The working of a figure slides out: formula, numbers put in, where each came from, the source. */
export function Working({
  id,
  figure,
  press,
  close,
}: {
  id: string;
  figure: string;
  press: (f: string) => void;
  close: () => void;
}) {
  const steps = useWorking(id, figure);
  return (
    <Panel side title="Working" close={close}>
      {steps.isPending && <Busy what="Computing it again, step by step" />}
      {steps.error && <ErrorText error={steps.error} />}
      <ol className="space-y-5">
        {steps.data?.map((s, i) => (
          <li key={i}>
            <p className="font-semibold">{s.label}</p>
            <p className="mt-0.5 font-serif">{s.formula}</p>
            {s.substituted && <p className="mt-0.5 text-faint">{s.substituted}</p>}
            <p className="mt-1 text-lg font-semibold">= {s.shown || `${s.value} ${s.unit}`}</p>
            {s.inputs.length > 0 && (
              <table className="tbl mt-1">
                <thead>
                  <tr>
                    <th>went in</th>
                    <th className="num">value</th>
                    <th>from</th>
                  </tr>
                </thead>
                <tbody>
                  {s.inputs.map((v, k) => (
                    <tr key={k}>
                      <td>
                        {v.figure ? (
                          <button className="press text-left" onClick={() => press(v.figure!)}>
                            {v.name}
                          </button>
                        ) : (
                          v.name
                        )}
                      </td>
                      <td className="num whitespace-nowrap">{v.shown}</td>
                      <td className="text-faint">
                        {origins[v.origin] ?? v.origin}
                        {v.source ? `; ${v.source}` : ""}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
            {s.source && <p className="mt-1 text-sm text-faint">{s.source}</p>}
          </li>
        ))}
      </ol>
    </Panel>
  );
}
