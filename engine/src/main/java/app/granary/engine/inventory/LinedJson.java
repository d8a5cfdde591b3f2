package app.granary.engine.inventory;

import app.granary.core.fault.FaultException;
import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.StreamReadConstraints;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * A JSON value that knows the line it began on, so that a message can name it. Nesting, the length of texts and of numbers are bounded by
 * the parser. Asking for a field in another type than it has is refused with the line.
 *
 * @param line    from 1
 * @param content a map of fields, a list, or a scalar's text; null for JSON's null
 */
record LinedJson(int line, JsonToken kind, Object content) {
    private static final JsonFactory JSON = JsonFactory.builder().streamReadConstraints(StreamReadConstraints.builder().maxNestingDepth(64)
        .maxStringLength(100_000).maxNumberLength(100).build()).build();

    static LinedJson parse(String text) throws IOException {
        try (JsonParser json = JSON.createParser(text)) {
            json.nextToken();
            LinedJson value = value(json);
            if (json.nextToken() != null) {
                throw InventoryText.refused(json.currentTokenLocation().getLineNr(), "more follows after its end");
            }
            return value;
        } catch (JsonProcessingException broken) {
            int line = broken.getLocation() == null ? 0 : broken.getLocation().getLineNr();
            throw InventoryText.refused(line, "it is not JSON there (" + broken.getOriginalMessage().lines().findFirst().orElse("") + ")");
        }
    }

    private static LinedJson value(JsonParser json) throws IOException {
        int line = json.currentTokenLocation().getLineNr();
        JsonToken token = json.currentToken();
        if (token == JsonToken.START_OBJECT) {
            Map<String, LinedJson> fields = new LinkedHashMap<>();
            while (json.nextToken() == JsonToken.FIELD_NAME) {
                String name = json.currentName();
                json.nextToken();
                fields.put(name, value(json));
            }
            return new LinedJson(line, token, fields);
        }
        if (token == JsonToken.START_ARRAY) {
            List<LinedJson> items = new ArrayList<>();
            while (json.nextToken() != JsonToken.END_ARRAY) {
                items.add(value(json));
            }
            return new LinedJson(line, token, items);
        }
        return new LinedJson(line, token, token == JsonToken.VALUE_NULL ? null : json.getText());
    }

    private Map<String, LinedJson> fields() throws FaultException {
        if (kind != JsonToken.START_OBJECT) {
            throw InventoryText.refused(line, "there should be an object in braces here");
        }
        @SuppressWarnings("unchecked")
        Map<String, LinedJson> fields = (Map<String, LinedJson>) content;
        return fields;
    }

    boolean has(String field) throws FaultException {
        LinedJson value = fields().get(field);
        return value != null && value.content != null;
    }

    /** Text of a field; an empty string when it is absent or null. */
    String text(String field) throws FaultException {
        if (!has(field)) {
            return "";
        }
        LinedJson value = fields().get(field);
        if (!value.kind.isScalarValue()) {
            throw InventoryText.refused(value.line, "\"" + field + "\" should be a text");
        }
        return ((String) value.content).strip();
    }

    /** A whole number, also when it comes as a text, as older tools print it. */
    OptionalLong whole(String field) throws FaultException {
        String text = text(field);
        if (text.isEmpty()) {
            return OptionalLong.empty();
        }
        try {
            long value = Long.parseLong(text);
            if (value >= 0) {
                return OptionalLong.of(value);
            }
        } catch (NumberFormatException not) {
            // refused below
        }
        throw InventoryText.refused(fields().get(field).line,
            "\"" + field + "\" should be a whole number of 0 or more, not \"" + text.substring(0, Math.min(40, text.length())) + "\"");
    }

    /** Items of a field; empty when it is absent or null. */
    List<LinedJson> list(String field) throws FaultException {
        if (!has(field)) {
            return List.of();
        }
        LinedJson value = fields().get(field);
        if (value.kind != JsonToken.START_ARRAY) {
            throw InventoryText.refused(value.line, "\"" + field + "\" should be a list");
        }
        @SuppressWarnings("unchecked")
        List<LinedJson> items = (List<LinedJson>) value.content;
        return items;
    }

    LinedJson object(String field) throws FaultException {
        LinedJson value = fields().get(field);
        if (value == null || value.kind != JsonToken.START_OBJECT) {
            throw InventoryText.refused(value == null ? line : value.line, "\"" + field + "\" should be an object in braces");
        }
        return value;
    }

    /** Sentences for fields that are not among those known: they are passed over, not refused. */
    List<String> strangers(Set<String> known) throws FaultException {
        return fields().entrySet().stream().filter(each -> !known.contains(each.getKey()))
            .map(each -> "Line " + each.getValue().line + ": \"" + each.getKey()
                + "\" is no field Granary knows and was passed over.")
            .collect(Collectors.toList());
    }
}
