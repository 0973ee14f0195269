import { createContext, type ReactNode, useContext, useEffect, useMemo, useState } from "react";
import { ThemeProvider } from "styled-components";
import { GlobalStyle } from "./GlobalStyle";
import { themes } from "./tokens";

type Scheme = "light" | "dark";
const KEY = "zembric-scheme";
const Choice = createContext<{ scheme: Scheme; toggle: () => void }>({ scheme: "light", toggle: () => {} });

/** Light or dark as the device says, until the person says otherwise on this device. */
export function ThemeChoice({ children }: { children: ReactNode }) {
  const [chosen, setChosen] = useState(() => localStorage.getItem(KEY) as Scheme | null);
  const [device, setDevice] = useState<Scheme>(deviceScheme);
  useEffect(() => {
    const query = matchMedia("(prefers-color-scheme: dark)");
    const follow = () => setDevice(deviceScheme());
    query.addEventListener("change", follow);
    return () => query.removeEventListener("change", follow);
  }, []);
  const scheme = chosen ?? device;
  const value = useMemo(() => {
    const toggle = () => {
      const next = scheme === "light" ? "dark" : "light";
      localStorage.setItem(KEY, next);
      setChosen(next);
    };
    return { scheme, toggle };
  }, [scheme]);
  return (
    <Choice.Provider value={value}>
      <ThemeProvider theme={themes[scheme]}>
        <GlobalStyle />
        {children}
      </ThemeProvider>
    </Choice.Provider>
  );
}

export const useThemeChoice = () => useContext(Choice);

const deviceScheme = (): Scheme => (matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light");
