/** What leads a new office; its steps tick themselves from what is so. */
package app.granary.server.firstday;
