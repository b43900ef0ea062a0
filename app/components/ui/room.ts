import { useLayoutEffect, useState, type RefObject } from "react";

/** The room that an element has within its padding, in pixels. */
export interface Room {
  width: number;
  height: number;
}

const last = new Map<string, Room>();

/**
 * How much room an element has, as it changes. What is drawn into it starts with the room the last
 * one at this place had, so that opening a screen again does not draw everything twice.
 * @param place names what is drawn there
 * @param first the room to start with where nothing was drawn there yet
 */
export function useRoom(ref: RefObject<HTMLElement | null>, place: string, first: Room): Room {
  const [room, setRoom] = useState(() => last.get(place) ?? first);
  useLayoutEffect(() => {
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      last.set(place, { width, height });
      setRoom((was) => (was.width === width && was.height === height ? was : { width, height }));
    });
    observer.observe(ref.current!);
    return () => observer.disconnect();
  }, [ref, place]);
  return room;
}
