/**
 * What runs on a computer somewhere else: joins the office and tells of its disks. It connects outwards only and opens no port. Start with
 * {@link app.granary.agent.AgentCommand}. Nothing is null.
 */
package app.granary.agent;
