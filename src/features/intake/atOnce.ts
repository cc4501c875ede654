/** Lists of more rows than this are worked on by the worker. */
export const AT_ONCE = 1500;
