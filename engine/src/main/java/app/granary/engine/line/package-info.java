/**
 * What an office and a computer somewhere else say to each other about the ports of {@link app.granary.engine.host}: messages, how they are
 * written, who asks and who answers. How they travel is the caller's. Nothing is null.
 */
package app.granary.engine.line;
