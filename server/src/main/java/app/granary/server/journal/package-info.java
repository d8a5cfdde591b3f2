/** Who did what to which disk, when, with what result; it only grows. */
package app.granary.server.journal;
