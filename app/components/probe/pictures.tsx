import { styled } from "@mui/material/styles";
import {
  createContext,
  useContext,
  useLayoutEffect,
  useState,
  type ReactNode,
  type RefObject,
} from "react";

/** As wide as a picture is drawn where there is room, and as narrow as it can be read. */
export const PICTURE_WIDTH = 660;
const LEAST = 300;

const Room = createContext(PICTURE_WIDTH);

/** How wide a picture of the place it stands in is drawn, in pixels. */
export const usePictureWidth = (): number => useContext(Room);

const Frame = styled("div")({ display: "grid", overflowX: "auto", minWidth: 0 });

/** Drawings below each other, as wide as their frame lets them be; on the narrowest screens they scroll within it. */
export function Pictures({
  ref,
  children,
}: {
  ref: RefObject<HTMLDivElement | null>;
  children: ReactNode;
}) {
  const [width, setWidth] = useState(PICTURE_WIDTH);
  useLayoutEffect(() => {
    const frame = ref.current!;
    const observer = new ResizeObserver(() =>
      setWidth(Math.max(LEAST, Math.min(PICTURE_WIDTH, frame.clientWidth))),
    );
    observer.observe(frame);
    return () => observer.disconnect();
  }, [ref]);
  return (
    <Frame ref={ref}>
      <Room value={width}>{children}</Room>
    </Frame>
  );
}
