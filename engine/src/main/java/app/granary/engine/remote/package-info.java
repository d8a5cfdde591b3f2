/**
 * A folder of one machine used from another as a file system of Java's own kind, so that images are written, carried on, proven and
 * restored there by the same code as on a drive. What carries the bytes is the caller's. Nothing is null.
 */
package app.granary.engine.remote;
