/** What an image would weigh and how long it would take. */
package app.granary.server.estimate;
