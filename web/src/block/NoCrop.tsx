/** What a step says that needs a crop and has none. */
export function NoCrop() {
  return <p className="py-3 text-faint">Choose a crop at the step Plants; the rows follow.</p>;
}
