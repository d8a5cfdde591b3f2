package app.granary.server.column;

import com.fasterxml.jackson.core.type.TypeReference;
import jakarta.persistence.Converter;
import java.util.List;

/** A list of texts. */
@Converter
public class TextList extends JsonColumn<List<String>> {
    public TextList() {
        super(new TypeReference<>() {});
    }

    /** An empty column is an empty list, as some were before they were JSON. */
    @Override
    public List<String> convertToEntityAttribute(String column) {
        return column != null && column.isEmpty() ? List.of() : super.convertToEntityAttribute(column);
    }
}
