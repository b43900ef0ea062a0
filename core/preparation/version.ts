/** Engine version written into every piece of evidence; it changes when numbers could. */
export const ENGINE = "hebel 0.8.0";
