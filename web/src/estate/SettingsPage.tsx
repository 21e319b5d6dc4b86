import { useState } from "react";
import { Link } from "react-router";
import { patchEstate, useEstate, type Patch, type Schema } from "../api/client";
import { TextField } from "../shell/Fields";
import { PlaceField } from "../shell/PlaceField";
import { say, sayError } from "../shell/Notices";
import { Busy, Trouble } from "../shell/States";
import { CopiesSection } from "./CopiesSection";
import { SeasonsSection } from "./SeasonsSection";

/** The estate itself: its name and place, units, people, season windows, copies and the history of changes. */
export default function SettingsPage() {
  const estate = useEstate();
  const [name, setName] = useState("");
  const [role, setRole] = useState("");
  if (estate.isPending) return <Busy what="Opening the estate" />;
  if (estate.error) return <Trouble error={estate.error} />;
  const { estate: e } = estate.data;
  const put = (patch: Patch | ((e: Schema["Estate"]) => Patch), done: string) =>
    void patchEstate(typeof patch === "function" ? patch : () => patch).then(() => say(done), sayError);
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-8 px-5 py-4 lg:grid-cols-2">
      <section>
        <h1>{e.name}</h1>
        <div className="mt-2 flex flex-wrap gap-3">
          <TextField
            label="The estate's name"
            width="w-64"
            value={e.name}
            keep={(v) => v && put({ name: v }, "The name is kept")}
          />
          <TextField label="Place" width="w-64" value={e.place} keep={(v) => put({ place: v }, "The place is kept")} />
          <PlaceField label="Where it lies" value={e.at} keep={(p) => put({ at: p ?? null }, "Where it lies is kept")} />
          <TextField
            label="Currency"
            width="w-24"
            value={e.currency ?? ""}
            keep={(v) => put({ currency: v }, "The currency is kept; prices keep their numbers")}
          />
        </div>
        <fieldset className="mt-4">
          <legend>
            <h2>Units</h2>
          </legend>
          {(
            [
              ["metric", "hectares, metres, kilograms, tonnes"],
              ["us", "acres, feet, pounds, short tons"],
            ] as const
          ).map(([u, words]) => (
            <label key={u} className="mr-6">
              <input type="radio" name="units" checked={e.units === u} onChange={() => put({ units: u }, `Shown in ${words}`)} />{" "}
              {words}
            </label>
          ))}
        </fieldset>
        <h2 className="mt-6">People</h2>
        <ul>
          {e.people.map((p) => (
            <li key={p.name} className="border-b border-line py-1">
              <b>{p.name}</b> <span className="text-faint">{p.role}</span>{" "}
              <button
                className="text-sm text-faint underline"
                onClick={() =>
                  put(
                    (now) => ({ people: now.people.filter((x) => x.name !== p.name || x.role !== p.role) }),
                    `${p.name} is taken out; what they decided keeps their name`,
                  )
                }
              >
                take out<span className="sr-only"> {p.name}</span>
              </button>
            </li>
          ))}
        </ul>
        <form
          className="mt-2 flex flex-wrap items-end gap-2"
          onSubmit={(ev) => {
            ev.preventDefault();
            put((now) => ({ people: [...now.people, { name: name.trim(), role: role.trim() }] }), `${name} is added`);
            setName("");
            setRole("");
          }}
        >
          <label className="flex flex-col text-sm">
            Name
            <input className="field" required value={name} onChange={(ev) => setName(ev.target.value)} />
          </label>
          <label className="flex flex-col text-sm">
            Role
            <input className="field" value={role} onChange={(ev) => setRole(ev.target.value)} />
          </label>
          <button className="act">Add</button>
        </form>
        <h2 className="mt-6">Ground and weather</h2>
        <p className="flex flex-wrap gap-2">
          <Link className="act" to="/climate">
            Climate
          </Link>
          <Link className="act" to="/heights">
            Heights and barriers
          </Link>
          <Link className="act" to="/stores">
            Materials and prices
          </Link>
        </p>
        <div className="mt-2 flex flex-wrap gap-3">
          <TextField
            label="Soil laboratory's address on this machine"
            width="w-64"
            value={e.laboratory ?? ""}
            keep={(v) => put({ laboratory: v }, "The laboratory's address is kept")}
          />
          <TextField
            label="Weather station's address"
            width="w-64"
            value={e.station ?? ""}
            keep={(v) => put({ station: v }, "The station's address is kept")}
          />
        </div>
        <SeasonsSection estate={e} put={put} />
      </section>
      <section>
        <CopiesSection />
        <h2 className="mt-6">History</h2>
        <p className="text-faint">
          Every change, by whom, with what it read before and after.{" "}
          <Link className="underline" to="/history">
            Open the history
          </Link>
        </p>
      </section>
    </div>
  );
}
