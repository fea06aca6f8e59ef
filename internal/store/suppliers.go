package store

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm/clause"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/supply"
	"freshapron/internal/core/term"
)

// A Supplier sells to the school.
type Supplier struct {
	supply.Supplier
	Answers Answers
	Version int
}

// Answers are how a simulated supplier answers to an order, by the codes of its
// products. What is not among them is accepted.
type Answers struct {
	Out      []string             `json:"out,omitempty"`      // of stock
	Prices   map[string]int       `json:"prices,omitempty"`   // pence
	Replaced map[string]Replacing `json:"replaced,omitempty"` // by
}

// A Replacing is another product that comes in place of the one that was ordered.
type Replacing struct {
	Name      string   `json:"name"`
	Allergens []string `json:"allergens"`
}

type supplierRow struct {
	ID       int64
	SchoolID int64
	Name     string
	Days     int
	LeadDays int
	Least    int
	Charge   int
	Answers  Answers `gorm:"serializer:json"`
	Version  int
}

// TableName of the suppliers.
func (supplierRow) TableName() string { return "suppliers" }

func (r supplierRow) supplier() Supplier {
	return Supplier{supply.Supplier{ID: r.ID, Name: r.Name, Days: term.Days(r.Days), LeadDays: r.LeadDays, Least: r.Least, Charge: r.Charge}, r.Answers, r.Version}
}

// Suppliers returns them by name.
func (s *School) Suppliers(ctx context.Context) ([]Supplier, error) {
	var rows []supplierRow
	err := s.db.WithContext(ctx).Order("name").Find(&rows).Error
	return each(rows, supplierRow.supplier), err
}

// SaveSupplier adds one without an id, or writes it over the version that it was
// read as. It returns ErrChanged where somebody else was quicker.
func (s *School) SaveSupplier(ctx context.Context, p Supplier) (int64, error) {
	row := supplierRow{ID: p.ID, Name: p.Name, Days: int(p.Days), LeadDays: p.LeadDays, Least: p.Least, Charge: p.Charge, Answers: p.Answers, Version: p.Version + 1}
	if p.ID == 0 {
		err := s.db.WithContext(ctx).Create(&row).Error
		return row.ID, err
	}
	result := s.db.WithContext(ctx).Model(&supplierRow{}).Where("id = ? AND version = ?", p.ID, p.Version).
		Select("name", "days", "lead_days", "least", "charge", "version").Updates(&row)
	if result.Error == nil && result.RowsAffected == 0 {
		return 0, ErrChanged
	}
	return p.ID, result.Error
}

type productRow struct {
	ID         int64
	SchoolID   int64
	SupplierID int64
	Code       string
	Item       string
	Name       string
	Amount     string
	Unit       string
	Pence      int
	Keeps      *int
	Opened     *int
	Days       int
	Most       *int
	Gone       bool
}

// TableName of the products.
func (productRow) TableName() string { return "products" }

// quantity reads an amount that was kept as an exact number and a unit's id.
func quantity(amount, unit string) (measure.Quantity, error) {
	n, err := exact.Parse(amount)
	u, ok := measure.UnitOf(unit)
	if err != nil || !ok {
		return measure.Quantity{}, fmt.Errorf("a kept amount can't be read: %q %q", amount, unit)
	}
	return measure.Quantity{Amount: n, Unit: u}, nil
}

func (r productRow) product() (supply.Product, error) {
	size, err := quantity(r.Amount, r.Unit)
	return supply.Product{ID: r.ID, Supplier: r.SupplierID, Code: r.Code, Item: r.Item, Name: r.Name, Size: size, Pence: r.Pence, Keeps: r.Keeps, Opened: r.Opened, Days: term.Days(r.Days), Most: r.Most}, err
}

// Products returns what suppliers sell, by supplier and name; what is gone from
// their lists is not among it.
func (s *School) Products(ctx context.Context) ([]supply.Product, error) {
	var rows []productRow
	if err := s.db.WithContext(ctx).Where("NOT gone").Order("supplier_id, name, id").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]supply.Product, len(rows))
	for i, r := range rows {
		var err error
		if out[i], err = r.product(); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// SaveProducts writes what a supplier sells, by its codes, over what was known of
// them.
func (s *School) SaveProducts(ctx context.Context, supplier int64, list []supply.Product) error {
	rows := make([]productRow, len(list))
	for i, p := range list {
		rows[i] = productRow{SupplierID: supplier, Code: p.Code, Item: p.Item, Name: p.Name, Amount: p.Size.Amount.String(), Unit: p.Size.Unit.ID, Pence: p.Pence, Keeps: p.Keeps, Opened: p.Opened, Days: int(p.Days), Most: p.Most}
	}
	if len(rows) == 0 {
		return nil
	}
	const atOnce = 500
	return s.db.WithContext(ctx).Clauses(clause.OnConflict{
		Columns:   []clause.Column{{Name: "school_id"}, {Name: "supplier_id"}, {Name: "code"}},
		DoUpdates: clause.AssignmentColumns([]string{"item", "name", "amount", "unit", "pence", "keeps", "opened", "days", "most", "gone"}),
	}).CreateInBatches(&rows, atOnce).Error
}

// DropProducts takes products from the list; orders keep their names and prices.
func (s *School) DropProducts(ctx context.Context, ids []int64) error {
	return s.db.WithContext(ctx).Model(&productRow{}).Where("id IN ?", ids).Update("gone", true).Error
}

type decisionRow struct {
	SchoolID  int64     `gorm:"primaryKey"`
	ProductID int64     `gorm:"primaryKey"`
	Comes     time.Time `gorm:"primaryKey;type:date"`
	Count     int
	Who       string
}

// TableName of the decisions.
func (decisionRow) TableName() string { return "decisions" }

// A Decision is how many of a product somebody wants on a day.
type Decision struct {
	Product int64
	On      time.Time
	Count   int
	Who     string
}

// Decisions returns those from a day on.
func (s *School) Decisions(ctx context.Context, from time.Time) ([]Decision, error) {
	var rows []decisionRow
	err := s.db.WithContext(ctx).Where("comes >= ?", from).Order("comes, product_id").Find(&rows).Error
	return each(rows, func(r decisionRow) Decision { return Decision{r.ProductID, r.Comes, r.Count, r.Who} }), err
}

// Decide writes one over what was decided before.
func (s *School) Decide(ctx context.Context, d Decision) error {
	row := decisionRow{ProductID: d.Product, Comes: d.On, Count: d.Count, Who: d.Who}
	return s.db.WithContext(ctx).Clauses(clause.OnConflict{
		Columns: []clause.Column{{Name: "school_id"}, {Name: "product_id"}, {Name: "comes"}}, DoUpdates: clause.AssignmentColumns([]string{"count", "who"}),
	}).Create(&row).Error
}

// Undecide forgets what was decided about a product on a day; about all on that
// day where the product is 0.
func (s *School) Undecide(ctx context.Context, product int64, on time.Time) error {
	db := s.db.WithContext(ctx).Where("comes = ?", on)
	if product != 0 {
		db = db.Where("product_id = ?", product)
	}
	return db.Delete(&decisionRow{}).Error
}

// An Order is what was sent to a supplier.
type Order struct {
	ID                  int64
	Supplier            int64
	On                  time.Time // the day on which it comes
	Charge              int       // pence
	Cancelled, Answered bool
	Form                string // the press that sent it
	Who                 string
	At                  time.Time
	Lines               []OrderLine
}

// An OrderLine is so many of a product, with its name and price at the time.
type OrderLine struct {
	ID      int64
	Order   int64
	Product supply.Product
	Count   int
	Answer  *Answered
	Checked *Checked
	Decided string // about another product that came; empty while nobody has
	By      string
}

// Answered is what a supplier says to a line.
type Answered struct {
	Out      bool       `json:"out,omitempty"`
	Pence    int        `json:"pence,omitempty"` // another price; 0 as ordered
	Replaced *Replacing `json:"replaced,omitempty"`
}

// Checked is what came of a line.
type Checked struct {
	Count     int       `json:"count"`
	Name      string    `json:"name,omitempty"`      // of another product
	Allergens []string  `json:"allergens,omitempty"` // of it
	Unlike    []string  `json:"unlike,omitempty"`    // those that the pantry's item does not have
	UseBy     string    `json:"use_by,omitempty"`
	Who       string    `json:"who"`
	At        time.Time `json:"at"`
}

// Expected is how many of a line can be counted on: what came, else what the
// supplier says, else what was ordered.
func (l OrderLine) Expected() int {
	switch {
	case l.Checked != nil:
		return l.Checked.Count
	case l.Answer != nil && l.Answer.Out:
		return 0
	}
	return l.Count
}

// Price is the pence of one pack: as the supplier answered, else as ordered.
func (l OrderLine) Price() int {
	if l.Answer != nil && l.Answer.Pence > 0 {
		return l.Answer.Pence
	}
	return l.Product.Pence
}

// Open reports whether somebody has to decide about another product that came.
func (l OrderLine) Open() bool {
	return l.Checked != nil && len(l.Checked.Unlike) > 0 && l.Checked.Count > 0 && l.Decided == ""
}

type orderRow struct {
	ID         int64
	SchoolID   int64
	SupplierID int64
	Comes      time.Time `gorm:"type:date"`
	Charge     int
	Cancelled  bool
	Answered   bool
	Form       string
	Who        string
	At         time.Time
}

// TableName of the orders.
func (orderRow) TableName() string { return "orders" }

type orderLineRow struct {
	ID        int64
	SchoolID  int64
	OrderID   int64
	ProductID int64
	Item      string
	Code      string
	Name      string
	Amount    string
	Unit      string
	Keeps     *int
	Opened    *int
	Pence     int
	Count     int
	Answer    *Answered `gorm:"serializer:json"`
	Checked   *Checked  `gorm:"serializer:json"`
	Unlike    bool
	Decided   string
	DecidedBy string
}

// TableName of the lines.
func (orderLineRow) TableName() string { return "order_lines" }

func (r orderLineRow) line() (OrderLine, error) {
	size, err := quantity(r.Amount, r.Unit)
	return OrderLine{ID: r.ID, Order: r.OrderID, Count: r.Count, Answer: r.Answer, Checked: r.Checked, Decided: r.Decided, By: r.DecidedBy,
		Product: supply.Product{ID: r.ProductID, Code: r.Code, Item: r.Item, Name: r.Name, Size: size, Pence: r.Pence, Keeps: r.Keeps, Opened: r.Opened}}, err
}

// SendOrder keeps an order, once for each press, and returns its id and whether
// this press was the first.
func (s *School) SendOrder(ctx context.Context, o Order) (id int64, first bool, err error) {
	err = s.InTransaction(ctx, func(in *School) error {
		row := orderRow{SupplierID: o.Supplier, Comes: o.On, Charge: o.Charge, Answered: o.Answered, Form: o.Form, Who: o.Who, At: o.At}
		once := clause.OnConflict{Columns: []clause.Column{{Name: "school_id"}, {Name: "form"}}, DoNothing: true}
		result := in.db.Clauses(once).Create(&row)
		if result.Error != nil {
			return result.Error
		}
		if result.RowsAffected == 0 {
			var sent orderRow
			err := in.db.Where("form = ?", o.Form).First(&sent).Error
			id = sent.ID
			return translate(err)
		}
		id, first = row.ID, true
		rows := make([]orderLineRow, len(o.Lines))
		for i, l := range o.Lines {
			p := l.Product
			rows[i] = orderLineRow{OrderID: row.ID, ProductID: p.ID, Item: p.Item, Code: p.Code, Name: p.Name, Amount: p.Size.Amount.String(), Unit: p.Size.Unit.ID,
				Keeps: p.Keeps, Opened: p.Opened, Pence: p.Pence, Count: l.Count, Answer: l.Answer}
		}
		if len(rows) == 0 {
			return nil
		}
		return in.db.Create(&rows).Error
	})
	return id, first, err
}

// Orders returns those that come from a day to a day, by the day and as they were
// sent, with their lines; those that were cancelled are among them.
func (s *School) Orders(ctx context.Context, from, to time.Time) ([]Order, error) {
	var rows []orderRow
	if err := s.db.WithContext(ctx).Where("comes BETWEEN ? AND ?", from, to).Order("comes, id").Find(&rows).Error; err != nil {
		return nil, err
	}
	return s.withLines(ctx, rows)
}

// Order returns one.
func (s *School) Order(ctx context.Context, id int64) (Order, error) {
	var row orderRow
	if err := s.db.WithContext(ctx).First(&row, id).Error; err != nil {
		return Order{}, translate(err)
	}
	list, err := s.withLines(ctx, []orderRow{row})
	if err != nil {
		return Order{}, err
	}
	return list[0], nil
}

func (s *School) withLines(ctx context.Context, rows []orderRow) ([]Order, error) {
	out := make([]Order, len(rows))
	at := map[int64]int{}
	var ids []int64
	for i, r := range rows {
		out[i] = Order{ID: r.ID, Supplier: r.SupplierID, On: r.Comes, Charge: r.Charge, Cancelled: r.Cancelled, Answered: r.Answered, Form: r.Form, Who: r.Who, At: r.At}
		at[r.ID] = i
		ids = append(ids, r.ID)
	}
	if ids == nil {
		return out, nil
	}
	var lines []orderLineRow
	if err := s.db.WithContext(ctx).Where("order_id IN ?", ids).Order("order_id, id").Find(&lines).Error; err != nil {
		return nil, err
	}
	for _, r := range lines {
		l, err := r.line()
		if err != nil {
			return nil, err
		}
		o := &out[at[r.OrderID]]
		l.Product.Supplier = o.Supplier
		o.Lines = append(o.Lines, l)
	}
	return out, nil
}

// CancelOrder takes an order back of which nothing has come. It returns ErrChanged
// where something has, or it was cancelled.
func (s *School) CancelOrder(ctx context.Context, id int64) error {
	return s.InTransaction(ctx, func(in *School) error {
		o, err := in.Order(ctx, id)
		if err != nil {
			return err
		}
		for _, l := range o.Lines {
			if l.Checked != nil {
				return ErrChanged
			}
		}
		result := in.db.Model(&orderRow{}).Where("id = ? AND NOT cancelled", id).Update("cancelled", true)
		if result.Error == nil && result.RowsAffected == 0 {
			return ErrChanged
		}
		return result.Error
	})
}

// CheckIn writes down what came of a line, once, and puts it into the store. It
// returns ErrChanged where that has been done, or the order was cancelled.
func (s *School) CheckIn(ctx context.Context, line int64, c Checked, b Batch) error {
	return s.InTransaction(ctx, func(in *School) error {
		var row orderLineRow
		if err := in.db.Clauses(clause.Locking{Strength: "UPDATE"}).First(&row, line).Error; err != nil {
			return translate(err)
		}
		var o orderRow
		if err := in.db.First(&o, row.OrderID).Error; err != nil {
			return translate(err)
		}
		if row.Checked != nil || o.Cancelled {
			return ErrChanged
		}
		if err := in.db.Model(&orderLineRow{}).Where("id = ?", line).Select("checked", "unlike").Updates(&orderLineRow{Checked: &c, Unlike: len(c.Unlike) > 0 && c.Count > 0}).Error; err != nil {
			return err
		}
		if c.Count == 0 {
			return nil
		}
		_, err := in.AddBatch(ctx, b, Movement{Kind: Came, Why: "delivery", Who: c.Who, At: c.At})
		return err
	})
}

// Undecided returns the lines in place of which another product came about which
// nobody has decided yet, by the day on which it came.
func (s *School) Undecided(ctx context.Context) ([]Undecided, error) {
	return remembered(ctx, s, &s.memory.undecided, func(n Standing) string { return n.undecided }, func() ([]Undecided, error) {
		var rows []struct {
			Row   orderLineRow `gorm:"embedded"`
			Comes time.Time
		}
		err := s.db.WithContext(ctx).Model(&orderLineRow{}).Select("order_lines.*, orders.comes").
			Joins("JOIN orders ON orders.school_id = order_lines.school_id AND orders.id = order_lines.order_id").
			Where("unlike AND decided = ''").Order("orders.comes, order_lines.id").Find(&rows).Error
		var out []Undecided
		for _, r := range rows {
			l, err := r.Row.line()
			if err != nil {
				return nil, err
			}
			out = append(out, Undecided{l, r.Comes})
		}
		return out, err
	})
}

// An Undecided is a line in place of which another product came, and when.
type Undecided struct {
	OrderLine
	On time.Time
}

// DecideLine writes down what somebody has decided about another product that
// came. It returns ErrChanged where somebody has.
func (s *School) DecideLine(ctx context.Context, line int64, says, who string) error {
	result := s.db.WithContext(ctx).Model(&orderLineRow{}).Where("id = ? AND decided = ''", line).Updates(map[string]any{"decided": says, "decided_by": who})
	if result.Error == nil && result.RowsAffected == 0 {
		return ErrChanged
	}
	return result.Error
}
