package app.granary.server.column;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.json.JsonReadFeature;
import com.fasterxml.jackson.core.type.TypeReference;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.datatype.jsr310.JavaTimeModule;
import jakarta.persistence.AttributeConverter;

/**
 * A value as JSON (RFC 8259) in one column, so that no text in it can break it in two. Null stays null.
 *
 * @param <T> the value's type
 */
public abstract class JsonColumn<T> implements AttributeConverter<T, String> {
    /** Lines that were joined before they were JSON may hold a tab as it is. */
    private static final ObjectMapper JSON = JsonMapper.builder().addModule(new JavaTimeModule())
        .enable(JsonReadFeature.ALLOW_UNESCAPED_CONTROL_CHARS).build();

    private final TypeReference<T> type;

    protected JsonColumn(TypeReference<T> type) {
        this.type = type;
    }

    @Override
    public String convertToDatabaseColumn(T value) {
        try {
            return value == null ? null : JSON.writeValueAsString(value);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    @Override
    public T convertToEntityAttribute(String column) {
        try {
            return column == null ? null : JSON.readValue(column, type);
        } catch (JsonProcessingException damaged) {
            throw new IllegalStateException("a value in the database cannot be read: " + damaged.getOriginalMessage(), damaged);
        }
    }
}
