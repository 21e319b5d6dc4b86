import { useNavigate, useParams } from "react-router";
import { useFitOf, useSheets } from "../api/client";
import { Pick } from "../shell/Fields";
import { Busy, Empty, Trouble } from "../shell/States";
import { FitTable } from "./FitTable";

/** One crop on every block of the estate. */
export default function FitOfPage() {
  const { sheet = "" } = useParams();
  const sheets = useSheets();
  const fits = useFitOf(sheet);
  const go = useNavigate();
  if (sheets.isPending || fits.isPending) return <Busy what="Judging every block" />;
  if (sheets.error || fits.error) return <Trouble error={sheets.error ?? fits.error} />;
  const s = sheets.data.find((x) => x.id === sheet);
  return (
    <div className="px-5 py-4">
      <div className="mb-3 flex flex-wrap items-end justify-between gap-3">
        <h1>Where could {s?.name.toLowerCase() ?? "it"} stand?</h1>
        <Pick
          label="Crop"
          value={sheet}
          options={sheets.data.map((x) => ({ id: x.id, words: x.name }))}
          keep={(v) => void go(`/fit/${v}`)}
        />
      </div>
      {fits.data.length === 0 ? (
        <Empty title="No block yet">Add one, and every crop answers.</Empty>
      ) : (
        <FitTable fits={fits.data} by="block" />
      )}
      <ul className="mt-4 max-w-prose space-y-1">
        {fits.data.map((f) => (
          <li key={f.block}>
            <b>{f.blockName}:</b> {f.sentence}
          </li>
        ))}
      </ul>
    </div>
  );
}
