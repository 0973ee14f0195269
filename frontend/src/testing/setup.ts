import "fake-indexeddb/auto";
import { configure } from "@testing-library/react";
import { afterEach, beforeEach } from "vitest";
import { beginAfresh, tidyUp } from "./page";

// A slow machine is no fault of the page.
configure({ asyncUtilTimeout: 5_000 });

// Most test files share their modules (see vite.config.ts); what a page keeps is thrown away here.
beforeEach(beginAfresh);
afterEach(tidyUp);
