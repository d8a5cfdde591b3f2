/** What the plans' rules would keep and let go of the images there are. Nothing is deleted here. */
package app.granary.server.retention;
