import { useEffect, useState } from "react";
import { Route, Routes, useLocation } from "react-router";
import { useEstate, useStatus } from "../api/client";
import type { System } from "../units";
import { EstatePage } from "../estate/EstatePage";
import { BeginPage } from "../estate/BeginPage";
import { Busy, Empty, Trouble } from "./States";
import { Find } from "./Find";
import { Keys } from "./Keys";
import { NoticeArea } from "./Notices";
import { Outbox } from "./Outbox";
import { TopBar } from "./TopBar";
import { UnitsContext } from "./reading";
import { useKeys } from "./keyboard";
import { late } from "./late";

const BlockPage = late(() => import("../block/BlockPage"), "Opening the page");
const JobSheet = late(() => import("../jobs/JobSheet"), "Writing the job sheet");
const PegsPage = late(() => import("../rows/PegsPage"), "Measuring the rows");
const OptionsPage = late(() => import("../rows/OptionsPage"), "Opening the options");
const DrawPage = late(() => import("../ground/DrawPage"), "Opening the page");
const JobsPage = late(() => import("../jobs/JobsPage"), "Opening the page");
const SuccessionPage = late(() => import("../jobs/SuccessionPage"), "Opening the page");
const SheetsPage = late(() => import("../sheets/SheetsPage"), "Opening the page");
const BenchPage = late(() => import("../bench/BenchPage"), "Opening the page");
const PrintPage = late(() => import("../print/PrintPage"), "Opening the page");
const ChecklistPage = late(() => import("../print/ChecklistPage"), "Opening the page");
const DrainsPage = late(() => import("../print/DrainsPage"), "Opening the page");
const ClimatePage = late(() => import("../climate/ClimatePage"), "Opening the page");
const HeightsPage = late(() => import("../ground/HeightsPage"), "Opening the page");
const FitOfPage = late(() => import("../fit/FitOfPage"), "Opening the page");
const StoresPage = late(() => import("../stores/StoresPage"), "Opening the page");
const HistoryPage = late(() => import("../estate/HistoryPage"), "Opening the page");
const SettingsPage = late(() => import("../estate/SettingsPage"), "Opening the page");

export function App() {
  const status = useStatus();
  const estate = useEstate();
  const [open, setOpen] = useState<"" | "find" | "keys">("");
  const place = useLocation();
  useKeys({ "/": () => setOpen("find"), "?": () => setOpen("keys") });
  useEffect(() => {
    window.scrollTo(0, 0); // may return a promise, which an effect must not
  }, [place.pathname]);

  if (status.isPending || (estate.isPending && status.data?.hasEstate)) return <Busy what="Opening the estate" />;
  if (status.error && !status.data) return <Trouble error={status.error} retry={() => void status.refetch()} />;
  if (!estate.data) {
    if (status.data.hasEstate && estate.error) return <Trouble error={estate.error} retry={() => void estate.refetch()} />;
    return <BeginPage />;
  }
  const system = estate.data.estate.units as System;
  return (
    <UnitsContext value={system}>
      <a href="#main" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-paper focus:p-2">
        Skip to the page
      </a>
      <TopBar estate={estate.data} status={status.data} find={() => setOpen("find")} keys={() => setOpen("keys")} />
      <Outbox />
      <main id="main" tabIndex={-1} className="outline-none">
        <Routes>
          <Route path="/" element={<EstatePage />} />
          <Route path="/draw" element={<DrawPage />} />
          <Route path="/blocks/:id/draw" element={<DrawPage />} />
          <Route path="/blocks/:id/jobs/:key" element={<JobSheet />} />
          <Route path="/blocks/:id/pegs" element={<PegsPage />} />
          <Route path="/blocks/:id/options" element={<OptionsPage />} />
          <Route path="/blocks/:id/print" element={<PrintPage />} />
          <Route path="/blocks/:id/checklist" element={<ChecklistPage />} />
          <Route path="/blocks/:id/drains/print" element={<DrainsPage />} />
          <Route path="/climate" element={<ClimatePage />} />
          <Route path="/heights" element={<HeightsPage />} />
          <Route path="/fit/:sheet" element={<FitOfPage />} />
          <Route path="/stores" element={<StoresPage />} />
          <Route path="/blocks/:id/:step?" element={<BlockPage />} />
          <Route path="/succession" element={<SuccessionPage />} />
          <Route path="/jobs" element={<JobsPage />} />
          <Route path="/sheets/:id?" element={<SheetsPage />} />
          <Route path="/bench/:name?" element={<BenchPage />} />
          <Route path="/history" element={<HistoryPage />} />
          <Route path="/settings" element={<SettingsPage />} />
          <Route path="*" element={<Empty title="There is no such page">Choose a place from the line above.</Empty>} />
        </Routes>
      </main>
      <NoticeArea />
      {open === "find" && <Find close={() => setOpen("")} />}
      {open === "keys" && <Keys close={() => setOpen("")} />}
    </UnitsContext>
  );
}
