import { ButtonBase, type ButtonBaseProps, type SxProps } from "@mui/material";
import type { ReactNode } from "react";
import { textSize } from "../theme";

interface Props {
  onClick: () => void;
  /** Whether it is the chosen one; left out for rows that only open something. */
  pressed?: boolean;
  children: ReactNode;
  sx?: SxProps;
  label?: string;
  expanded?: boolean;
}

/** A line of the sheet that can be chosen: full width, large enough for a finger, with a ring when focused. */
export function Row({ onClick, pressed, children, sx, label, expanded }: Props) {
  const said: ButtonBaseProps = {
    ...(pressed === undefined ? {} : { "aria-pressed": pressed }),
    ...(label === undefined ? {} : { "aria-label": label }),
    ...(expanded === undefined ? {} : { "aria-expanded": expanded }),
  };
  return (
    <ButtonBase
      {...said}
      onClick={onClick}
      sx={{
        width: "100%",
        minHeight: 44,
        gap: 1,
        justifyContent: "flex-start",
        textAlign: "left",
        fontSize: textSize.body,
        fontWeight: pressed ? 700 : 400,
        borderBottom: 1,
        borderColor: "divider",
        "&:focus-visible": { outlineOffset: -2 },
        ...sx,
      }}
    >
      {children}
    </ButtonBase>
  );
}
