import { styled } from "@mui/material/styles";
import { createContext, useContext, type ReactNode, type RefObject } from "react";
import { useRoom } from "../ui/room";

/** As wide as a picture is drawn where there is room, and as narrow as it can be read. */
export const PICTURE_WIDTH = 660;
const LEAST = 300;
const FIRST_ROOM = { width: PICTURE_WIDTH, height: 0 };

const PictureWidth = createContext(PICTURE_WIDTH);

/** How wide a picture of the place it stands in is drawn, in pixels. */
export const usePictureWidth = (): number => useContext(PictureWidth);

const Frame = styled("div")({ display: "grid", overflowX: "auto", minWidth: 0 });

/**
 * Drawings below each other, as wide as their frame lets them be; on the narrowest screens they
 * scroll within it.
 */
export function Pictures({
  ref,
  children,
}: {
  ref: RefObject<HTMLDivElement | null>;
  children: ReactNode;
}) {
  const room = useRoom(ref, "pictures", FIRST_ROOM).width;
  const width = Math.max(LEAST, Math.min(PICTURE_WIDTH, room));
  return (
    <Frame ref={ref}>
      <PictureWidth value={width}>{children}</PictureWidth>
    </Frame>
  );
}
