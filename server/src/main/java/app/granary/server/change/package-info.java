/** What has changed since open pages were told. Nothing is null. */
package app.granary.server.change;
