import { type RefObject, useLayoutEffect, useRef, useState } from "react";

/** Width of an element in pixels, kept up to date. */
export function useWidth(initial: number): [RefObject<HTMLElement | null>, number] {
  const ref = useRef<HTMLElement>(null);
  const [width, setWidth] = useState(initial);
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element || typeof ResizeObserver === "undefined") return;
    const observer = new ResizeObserver(() => setWidth(element.clientWidth));
    observer.observe(element);
    setWidth(element.clientWidth || initial);
    return () => observer.disconnect();
  }, [initial]);
  return [ref, width];
}
