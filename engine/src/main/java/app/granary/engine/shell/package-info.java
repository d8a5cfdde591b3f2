/** What was done by command in a bare shell, noted beside the images, so that an office learns of it. Nothing is null. */
package app.granary.engine.shell;
