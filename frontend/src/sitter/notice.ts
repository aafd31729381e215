import { createContext, useContext } from "react";

export interface NoticeAction {
  label: string;
  run: () => void;
}

/** Tell the painter one sentence at the foot of the screen, with at most one thing to do about it. */
export type Notice = (sentence: string, action?: NoticeAction) => void;

export const NoticeContext = createContext<Notice>(() => undefined);
export const useNotice = () => useContext(NoticeContext);
