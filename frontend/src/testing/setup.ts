import { afterEach, beforeEach } from "vitest";
import { beginAfresh, tidyUp } from "./page";

// Most test files share their modules (see vite.config.ts); what a page keeps is thrown away here.
beforeEach(beginAfresh);
afterEach(tidyUp);
