package app.granary.server.computer;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What a person changed about a computer, in words for the journal. */
final class Changes {
    private Changes() {
    }

    static Map<String, String> fields(ComputerForm form) {
        Map<String, String> out = new LinkedHashMap<>();
        out.put("name", form.name());
        out.put("role", form.role());
        out.put("owner", form.owner());
        out.put("maker", form.maker());
        out.put("model", form.model());
        out.put("firmware", form.firmware());
        out.put("boot key", form.bootKey());
        out.put("secure boot", form.secureBoot() == null ? "" : form.secureBoot() ? "on" : "off");
        out.put("operating system", form.operatingSystem());
        out.put("encryption", form.encryption());
        out.put("place of the key", form.keyPlace());
        out.put("note on the key", form.keyNote());
        out.put("note", form.note());
        out.put("checks", form.checks());
        return out;
    }

    static String sentence(Map<String, String> before, Map<String, String> after) {
        List<String> out = new ArrayList<>();
        after.forEach((field, now) -> {
            String was = before.get(field);
            if (!now.equals(was)) {
                out.add(field + " was " + quoted(was) + ", is " + quoted(now));
            }
        });
        return out.isEmpty() ? "saved without a change." : String.join("; ", out) + ".";
    }

    private static String quoted(String text) {
        return text.isEmpty() ? "empty" : "\"" + text + "\"";
    }
}
