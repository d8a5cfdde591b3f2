package app.granary.server.office;

import org.springframework.data.jpa.repository.JpaRepository;

interface OfficeRowRepository extends JpaRepository<OfficeRow, Integer> {
}
