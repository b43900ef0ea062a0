import { createContext } from "react";

/** The nonce that styles made at run time must carry under the content-security policy. */
export const NonceContext = createContext<string | undefined>(undefined);
