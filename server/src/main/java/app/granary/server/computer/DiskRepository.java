package app.granary.server.computer;

import java.util.List;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface DiskRepository extends JpaRepository<Disk, String> {
    /** All disks with their partitions and computers in one query, removed ones too. */
    @Query("select distinct d from Disk d join fetch d.computer left join fetch d.partitions order by d.place")
    List<Disk> all();

    @Query("select distinct d from Disk d join fetch d.computer left join fetch d.partitions where d.computer.id = :computer order by d.place")
    List<Disk> of(UUID computer);
}
