package app.granary.server.column;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import jakarta.persistence.AttributeConverter;
import jakarta.persistence.Converter;
import java.util.List;

/** A list of texts as a JSON array (RFC 8259), so that no text can break it in two. An empty column is an empty list. */
@Converter
public class TextList implements AttributeConverter<List<String>, String> {
    private static final ObjectMapper JSON = new ObjectMapper();

    @Override
    public String convertToDatabaseColumn(List<String> texts) {
        try {
            return texts == null ? null : JSON.writeValueAsString(texts);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    @Override
    public List<String> convertToEntityAttribute(String column) {
        try {
            return column == null ? null : column.isEmpty() ? List.of() : List.of(JSON.readValue(column, String[].class));
        } catch (JsonProcessingException damaged) {
            throw new IllegalStateException("a list in the database cannot be read: " + damaged.getOriginalMessage(), damaged);
        }
    }
}
