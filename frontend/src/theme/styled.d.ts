import type { Theme } from "./tokens";

declare module "styled-components" {
  export interface DefaultTheme extends Readonly<Omit<Theme, "scheme">> {
    readonly scheme: string;
  }
}
