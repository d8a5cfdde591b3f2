/** Releasing images: first into a trash folder on their own drive, from which they can be taken back. */
package app.granary.engine.release;
