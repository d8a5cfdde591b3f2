/** Programs of the operating system that Granary starts. */
package app.granary.engine.tool;
