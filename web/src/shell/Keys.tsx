import { Switch } from "@headlessui/react";
import { useState } from "react";
import { glossary } from "./glossary";
import { singleKeys } from "./keyboard";
import { Panel } from "./Sheet";

const list: [string, string][] = [
  ["?", "show these keys"],
  ["/", "find a block, a sheet or a job"],
  ["← →", "move the plumb line by a year (with shift, by five), when the ground line has the focus"],
  ["Home End", "plumb line to the first and last year"],
  ["Enter", "open the year under the plumb line, or close it again"],
  ["w", "working of the focused figure, or of the first one"],
  ["t", "table behind the ground line"],
  ["r", "record what was done"],
  ["+ −", "zoom the plan sheet, when it has the focus; arrows pan, 0 fits"],
  ["u", "take back your last change"],
  ["U", "make again what you took back"],
];

export function Keys({ close }: { close: () => void }) {
  const [on, setOn] = useState(singleKeys.on());
  return (
    <Panel title="Keys and words" close={close}>
      <table className="tbl">
        <tbody>
          {list.map(([k, what]) => (
            <tr key={k}>
              <td className="w-28 font-semibold">{k}</td>
              <td>{what}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <h2 className="mt-5">Words</h2>
      <dl>
        {Object.entries(glossary).map(([word, meaning]) => (
          <div key={word} className="border-b border-line py-1">
            <dt className="inline font-semibold">{word}</dt> <dd className="inline">{meaning}</dd>
          </div>
        ))}
      </dl>
      <div className="mt-4 flex items-center gap-3">
        <Switch
          checked={on}
          onChange={(v) => {
            singleKeys.set(v);
            setOn(v);
          }}
          className="group h-6 w-11 rounded-full border border-ink bg-white p-0.5 data-checked:bg-growth"
          aria-label="Single-letter keys"
        >
          <span className="block h-4 w-4 rounded-full bg-ink transition group-data-checked:translate-x-5 group-data-checked:bg-paper" />
        </Switch>
        <span>Single-letter keys are {on ? "on" : "off"}</span>
      </div>
    </Panel>
  );
}
