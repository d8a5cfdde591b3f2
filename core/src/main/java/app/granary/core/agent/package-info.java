/** How a computer somewhere else joins the office and speaks with it. Nothing is null. */
package app.granary.core.agent;
