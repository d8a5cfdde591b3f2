/** Which images stay and which may go, by rules one can read. Pure: the moment and the time zone are passed in. Nothing is null. */
package app.granary.core.retention;
