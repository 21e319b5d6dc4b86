import { patchEstate, useEstate, type Schema } from "../api/client";
import { NumberField, TextField } from "../shell/Fields";
import { say, sayError } from "../shell/Notices";
import { Wide } from "../shell/Wide";

type Crew = Schema["Crew"];

/** The crews of the estate and what they can do in a week. */
export function Crews() {
  const estate = useEstate();
  const list = estate.data?.estate.crews ?? [];
  const put = (make: (now: Crew[]) => Crew[], done: string) =>
    void patchEstate((e) => ({ crews: make(e.crews ?? []) })).then(() => say(done), sayError);
  const change = (id: string, part: Partial<Crew>) =>
    put((now) => now.map((c) => (c.id === id ? { ...c, ...part } : c)), "The crew is kept");
  return (
    <section>
      {list.length > 0 && (
        <Wide label="Crews">
          <table className="tbl">
            <caption className="sr-only">Crews</caption>
            <thead>
              <tr>
                <th>crew</th>
                <th className="num">people</th>
                <th className="num">hours a day</th>
                <th className="num">days a week</th>
                <th className="num">wage an hour</th>
                <th>
                  <span className="sr-only">take off</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {list.map((c) => (
                <tr key={c.id}>
                  <td>
                    <TextField label="Name of the crew" hidden value={c.name} keep={(name) => name && change(c.id, { name })} />
                  </td>
                  {(["people", "hoursDay", "daysWeek", "wage"] as const).map((k) => (
                    <td key={k} className="num">
                      <NumberField
                        label={`${c.name}, ${{ people: "people", hoursDay: "hours a day", daysWeek: "days a week", wage: "wage an hour" }[k]}`}
                        hidden
                        quantity="plain"
                        width="w-16"
                        value={c[k] || undefined}
                        keep={(v) => (v !== undefined || k === "wage") && change(c.id, { [k]: v ?? 0 })}
                      />
                    </td>
                  ))}
                  <td>
                    <button
                      className="act px-1.5"
                      aria-label={`Take ${c.name} off`}
                      onClick={() =>
                        put((now) => now.filter((x) => x.id !== c.id), `${c.name} is taken off; undo brings it back`)
                      }
                    >
                      ×
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Wide>
      )}
      <button
        className="act mt-2"
        onClick={() =>
          put(
            (now) => [
              ...now,
              { id: Math.random().toString(36).slice(2, 8), name: `Crew ${now.length + 1}`, people: 2, hoursDay: 8, daysWeek: 5 },
            ],
            "A crew is added",
          )
        }
      >
        Add a crew
      </button>
    </section>
  );
}
