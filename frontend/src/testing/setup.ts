import { afterEach, beforeEach } from "vitest";
import { beginAfresh, tidyUp } from "./page";

// Test files share their modules, which is twice as quick; what a page keeps is thrown away here.
beforeEach(beginAfresh);
afterEach(tidyUp);
