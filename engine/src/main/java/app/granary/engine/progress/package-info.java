/** What long work tells while it runs, and how it is stopped. Nothing is null. */
package app.granary.engine.progress;
