/** Captures of disks: asked for, looked at beforehand, made, carried on, and what their times teach. */
package app.granary.server.capture;
