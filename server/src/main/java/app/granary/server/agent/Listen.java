package app.granary.server.agent;

/**
 * Where the agents' port listens.
 *
 * @param address of this machine: a number or a name
 * @param port    0 for any that is free
 */
record Listen(String address, int port) {
    static final int USUAL = 8471;

    /** @throws IllegalArgumentException with what to write instead, when it is no address */
    static Listen parse(String text) {
        int colon = text.startsWith("[") ? text.indexOf("]:") + 1 : text.lastIndexOf(':');
        String address = colon > 0 ? text.substring(0, colon) : text;
        String port = colon > 0 ? text.substring(colon + 1) : "" + USUAL;
        if (address.isBlank() || !port.matches("[0-9]{1,5}") || Integer.parseInt(port) > 65_535) {
            throw new IllegalArgumentException(
                "\"" + text
                + "\" is no address to listen on. Write an address of this machine, with a port behind a colon, as 192.168.1.10:"
                    + USUAL + ".");
        }
        return new Listen(address.replace("[", "").replace("]", ""), Integer.parseInt(port));
    }
}
