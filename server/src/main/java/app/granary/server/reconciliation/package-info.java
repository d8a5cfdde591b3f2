/** What drives hold against what the database says they hold. */
package app.granary.server.reconciliation;
