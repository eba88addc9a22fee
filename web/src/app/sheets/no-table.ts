/** A file that is no table, or too much of one; says so for people. */
export class NoTable extends Error {}
