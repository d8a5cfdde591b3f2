package app.granary.server.image;

import java.util.Collection;
import java.util.List;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface ImageRepository extends JpaRepository<Image, UUID> {
    List<Image> findByShelfNotOrderByMadeAtDesc(Image.Shelf shelf);

    List<Image> findByDiskIdAndCodecOrderByMadeAtDesc(String diskId, String codec);

    /** Case is not counted: some file systems do not tell such names apart. */
    @Query("select count(i) > 0 from Image i where i.destinationId = :destinationId and lower(i.name) = lower(:name) and i.shelf <> 'GONE'")
    boolean isTaken(String destinationId, String name);

    @Query("select count(i) > 0 from Image i where i.destinationId = :destinationId and i.location = :location and lower(i.name) = lower(:name) and i.shelf <> 'GONE'")
    boolean isTaken(String destinationId, String location, String name);

    List<Image> findByLacksIsNullAndShelf(Image.Shelf shelf);

    List<Image> findByDiskIdIn(Collection<String> diskIds);

    List<Image> findBySetIdAndShelf(UUID setId, Image.Shelf shelf);
}
