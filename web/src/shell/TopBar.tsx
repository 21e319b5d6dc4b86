import { Menu, MenuButton, MenuItem, MenuItems } from "@headlessui/react";
import { useEffect, useState } from "react";
import { Link, NavLink } from "react-router";
import { changed, inTurn, person, read, useSteps, write, type Schema } from "../api/client";
import { day } from "../units";
import { useKeys } from "./keyboard";
import { say, sayError } from "./Notices";

const places = [
  ["/", "Estate"],
  ["/jobs", "Jobs"],
  ["/stores", "Stores"],
  ["/sheets", "Sheets"],
  ["/bench", "Bench"],
] as const;

export function TopBar({
  estate,
  status,
  find,
  keys,
}: {
  estate: Schema["EstateDoc"];
  status: Schema["Status"];
  find: () => void;
  keys: () => void;
}) {
  const people = estate.estate.people;
  const [who, setWho] = useState(person.get());
  useEffect(() => {
    const first = people[0]?.name;
    if (first && !people.some((p) => p.name === person.get())) {
      person.set(first);
      setWho(first);
    }
  }, [people]);
  const steps = useSteps(who);
  const { undo: last, redo: next } = steps.data ?? {};
  const canUndo = last && !/^(Began|Loaded)/.test(last.what);
  // What is taken back, or made again, is what stands last when the button is pressed, also a change so fresh that it is
  // not shown yet.
  const step = (which: "undo" | "redo") =>
    inTurn(async () => {
      try {
        const now = (await read.steps())[which];
        if (!now || /^(Began|Loaded)/.test(now.what)) return;
        await write[which](now.id);
        say(`${which === "undo" ? "Undone" : "Made again"}: ${now.what}`);
      } catch (e) {
        sayError(e);
      } finally {
        await changed();
      }
    });
  useKeys({ u: () => void step("undo"), U: () => void step("redo") });
  return (
    <header className="no-print flex flex-wrap items-baseline gap-x-6 gap-y-1 border-b-[1.5px] border-ink px-4 py-2.5">
      <Link to="/" className="font-serif text-xl font-semibold">
        Slow Root
      </Link>
      <nav aria-label="Places" className="flex flex-wrap gap-x-5">
        {places.map(([to, name]) => (
          <NavLink
            key={to}
            to={to}
            className={({ isActive }) =>
              isActive ? "border-b-2 border-ink pb-0.5 font-semibold" : "pb-0.5 text-faint hover:text-ink"
            }
          >
            {name}
          </NavLink>
        ))}
      </nav>
      <div className="ml-auto flex flex-wrap items-baseline gap-x-5">
        <button onClick={find} className="text-faint hover:text-ink">
          Find <kbd className="font-sans">/</kbd>
        </button>
        <button
          onClick={() => void step("undo")}
          disabled={!canUndo}
          title={canUndo ? last.what : "nothing to undo"}
          className="text-faint hover:text-ink"
        >
          Undo
        </button>
        <button
          onClick={() => void step("redo")}
          disabled={!next}
          title={next ? next.what : "nothing to make again"}
          className="text-faint hover:text-ink"
        >
          Redo
        </button>
        <span className="text-faint" title={status.todayFixed ? "This day was set when the program was started" : "today"}>
          seen from {day(status.today)}
        </span>
        <Menu>
          <MenuButton className="text-faint hover:text-ink">{who || "Who are you?"}</MenuButton>
          <MenuItems anchor="bottom end" className="z-50 mt-1 min-w-48 border border-ink bg-white py-1">
            {people.map((p) => (
              <MenuItem key={p.name}>
                <button
                  className="block w-full px-3 py-1 text-left data-focus:bg-soil"
                  onClick={() => {
                    person.set(p.name);
                    setWho(p.name);
                  }}
                >
                  {p.name} <span className="text-faint">{p.role}</span>
                </button>
              </MenuItem>
            ))}
            <MenuItem>
              <Link to="/settings" className="block border-t border-line px-3 py-1 data-focus:bg-soil">
                Estate, units, seasons, copies
              </Link>
            </MenuItem>
            <MenuItem>
              <Link to="/history" className="block px-3 py-1 data-focus:bg-soil">
                History of changes
              </Link>
            </MenuItem>
            <MenuItem>
              <Link to="/climate" className="block px-3 py-1 data-focus:bg-soil">
                Climate
              </Link>
            </MenuItem>
            <MenuItem>
              <Link to="/heights" className="block px-3 py-1 data-focus:bg-soil">
                Lie of the land
              </Link>
            </MenuItem>
            <MenuItem>
              <button className="block w-full px-3 py-1 text-left data-focus:bg-soil" onClick={keys}>
                Keys <span className="text-faint">?</span>
              </button>
            </MenuItem>
          </MenuItems>
        </Menu>
      </div>
    </header>
  );
}
