/** What is said of an image as a whole, before its bytes: its name. Nothing is null. */
package app.granary.core.image;
