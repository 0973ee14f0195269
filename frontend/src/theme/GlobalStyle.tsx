import "@fontsource-variable/atkinson-hyperlegible-mono/wght.css";
import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import { createGlobalStyle } from "styled-components";

export const GlobalStyle = createGlobalStyle`
  :root {
    color-scheme: ${({ theme }) => theme.scheme};
    ${({ theme }) => Object.entries(theme.space).map(([name, size]) => `--${name}: ${size};`)}
  }
  *, *::before, *::after { box-sizing: border-box; }
  body {
    margin: 0;
    background-color: ${({ theme }) => theme.color.mat};
    color: ${({ theme }) => theme.color.ink};
    font: ${({ theme }) => `${theme.size.text}/1.45 ${theme.font.text}`};
    font-variant-numeric: tabular-nums;
    -webkit-text-size-adjust: 100%;
  }
  h1, h2, h3, p, ul, ol, dl, dd, figure { margin: 0; padding: 0; }
  h1 { font-size: ${({ theme }) => theme.size.title}; line-height: 1.2; font-weight: 800; }
  h2 { font-size: ${({ theme }) => theme.size.lead}; line-height: 1.25; font-weight: 750; }
  h3 { font-size: ${({ theme }) => theme.size.text}; font-weight: 750; }
  ul, ol { list-style: none; }
  a { color: inherit; }
  button, input, select, textarea { font: inherit; color: inherit; }
  :focus-visible { outline: 3px solid ${({ theme }) => theme.color.pencil}; outline-offset: 2px; }
  @media (prefers-reduced-motion: reduce) { *, *::before, *::after { animation: none !important; transition: none !important; } }
`;
