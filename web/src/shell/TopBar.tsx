import { Menu, MenuButton, MenuItem, MenuItems } from "@headlessui/react";
import { useEffect, useState } from "react";
import { Link, NavLink, useLocation } from "react-router";
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
  const at = useLocation().pathname;
  const here = places.find(([to]) => to !== "/" && at.startsWith(to))?.[1] ?? "Estate";
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
    <header className="no-print flex items-baseline gap-x-4 border-b-[1.5px] border-ink px-4 py-2.5 md:gap-x-6">
      <Link to="/" className="whitespace-nowrap font-serif text-xl font-semibold">
        Slow Root
      </Link>
      <div className="md:hidden">
        <Menu>
          <MenuButton className="font-semibold" aria-label={`Places, now ${here}`}>
            {here} <span aria-hidden>▾</span>
          </MenuButton>
          <MenuItems anchor="bottom start" className="z-50 mt-1 min-w-40 border border-ink bg-white py-1">
            {places.map(([to, name]) => (
              <MenuItem key={to}>
                <Link to={to} className="block px-3 py-1.5 data-focus:bg-soil">
                  {name}
                </Link>
              </MenuItem>
            ))}
            {next && (
              <MenuItem>
                <button
                  className="block w-full border-t border-line px-3 py-1.5 text-left data-focus:bg-soil"
                  onClick={() => void step("redo")}
                >
                  Redo: {next.what}
                </button>
              </MenuItem>
            )}
          </MenuItems>
        </Menu>
      </div>
      <nav aria-label="Places" className="hidden gap-x-5 md:flex">
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
      <div className="ml-auto flex min-w-0 items-baseline gap-x-4 md:gap-x-5">
        <button onClick={find} className="text-faint hover:text-ink">
          Find <kbd className="font-sans max-md:hidden">/</kbd>
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
          className="text-faint hover:text-ink max-md:hidden"
        >
          Redo
        </button>
        <span
          className="whitespace-nowrap text-faint max-md:hidden"
          title={status.todayFixed ? "This day was set when the program was started" : "today"}
        >
          seen from {day(status.today)}
        </span>
        <Menu>
          <MenuButton className="truncate text-faint hover:text-ink" aria-label={who || "Who are you?"}>
            <span className="max-md:hidden">{who || "Who are you?"}</span>
            <span className="md:hidden">{who ? who.split(" ")[0] : "You?"}</span>
          </MenuButton>
          <MenuItems anchor="bottom end" className="z-50 mt-1 min-w-48 border border-ink bg-white py-1">
            <p className="px-3 py-1 text-sm text-faint md:hidden">seen from {day(status.today)}</p>
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
