/** The engine on a command line, for a rescue shell without a browser. Start with {@link app.granary.cli.Granary}. */
package app.granary.cli;
