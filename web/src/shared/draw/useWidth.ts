import { useCallback, useState } from "react";

/** The width of an element in pixels, so that a picture is drawn at its true size. */
export function useWidth(first: number): [(element: HTMLElement | null) => (() => void) | undefined, number] {
  const [width, setWidth] = useState(first);
  const ref = useCallback((element: HTMLElement | null) => {
    if (element === null) return undefined;
    const observer = new ResizeObserver(() => setWidth(element.clientWidth));
    observer.observe(element);
    setWidth(element.clientWidth);
    return () => observer.disconnect();
  }, []);
  return [ref, width];
}
