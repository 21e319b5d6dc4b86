import { useEffect, useState, type ComponentType } from "react";
import { Busy, Trouble } from "./States";

/**
 * A component whose script is fetched when it is first shown. Unlike React.lazy under Suspense, which holds what has
 * arrived back for 300 ms once a fallback was seen, it shows the component as soon as its script is there.
 */
export function late<P extends object>(
  fetchScript: () => Promise<{ default: ComponentType<P> }>,
  what: string,
): ComponentType<P> {
  let Shown: ComponentType<P> | undefined;
  return function Late(props: P) {
    const [state, setState] = useState<{ here: boolean; error?: unknown }>({ here: Shown !== undefined });
    useEffect(() => {
      if (state.here || state.error !== undefined) return;
      let away = false;
      fetchScript().then(
        (m) => {
          Shown = m.default;
          if (!away) setState({ here: true });
        },
        (error: unknown) => {
          if (!away) setState({ here: false, error });
        },
      );
      return () => {
        away = true;
      };
    }, [state]);
    if (state.error !== undefined) return <Trouble error={state.error} retry={() => setState({ here: false })} />;
    return Shown ? <Shown {...props} /> : <Busy what={what} />;
  };
}
