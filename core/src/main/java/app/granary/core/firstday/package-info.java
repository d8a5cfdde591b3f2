/** What leads a new office from nothing to computers that come back. Start at {@link app.granary.core.firstday.FirstDay}. */
package app.granary.core.firstday;
