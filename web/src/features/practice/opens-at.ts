/** The next rung of the ladder opens at this score. */
export const opensAt = 85
