/** Granary's own database: who may do what in it, its copies and how one is brought back. */
package app.granary.server.database;
