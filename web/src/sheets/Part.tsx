import { useLists } from "../api/client";
import { Wide } from "../shell/Wide";

/** useFrom says where a value is from, in the words of the lists. */
export function useFrom() {
  const lists = useLists();
  return (o: string) => lists.data?.origins.find((x) => x.id === o)?.words ?? o.replace(/^pub: /, "published: ");
}

/** From is where a value is from; what rests on memory is set apart. */
export function From({ origin }: { origin: string }) {
  const from = useFrom();
  return (
    <span className={origin === "mem" ? "border-b border-dashed border-straw text-straw" : "text-faint"}>{from(origin)}</span>
  );
}

/** Part is a section of a sheet. */
export function Part({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section className="mt-6">
      <h2>{title}</h2>
      <Wide label={title}>
        <table className="tbl mt-1">{children}</table>
      </Wide>
    </section>
  );
}
