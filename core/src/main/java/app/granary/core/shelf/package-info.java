/** The images an office has, each with the copies it lies in. Nothing is null. */
package app.granary.core.shelf;
