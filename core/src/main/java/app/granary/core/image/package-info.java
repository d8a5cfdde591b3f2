/**
 * What is said of an image as a whole: its name, what could not be read for it, what one made elsewhere holds and whose it is. Nothing is
 * null.
 */
package app.granary.core.image;
