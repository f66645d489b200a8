"use client";

import { createContext, useContext } from "react";

/** Whether the screens stand at the practice bench, where what is hidden answers in place of the eye and the meter. */
export const Practising = createContext(false);
export const usePractising = (): boolean => useContext(Practising);
