/** Measures the command line against general tools doing the same work in the same run. Start with {@link app.granary.bench.Bench}. */
package app.granary.bench;
