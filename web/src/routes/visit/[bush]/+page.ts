/** Read on whatever phone comes by: no program is needed for it. */
export const csr = false;
