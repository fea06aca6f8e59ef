package store

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"gorm.io/gorm"
	"gorm.io/gorm/schema"
	"gorm.io/gorm/utils/tests"
)

// dry prepares statements without a database.
func dry(t *testing.T) *gorm.DB {
	t.Helper()
	db, err := gorm.Open(tests.DummyDialector{}, &gorm.Config{DryRun: true, NamingStrategy: schema.NamingStrategy{}})
	assert.NoError(t, err)
	assert.NoError(t, db.Use(tenancy{}))
	return db.WithContext(context.Background())
}

func TestNoSchoolNoStatement(t *testing.T) {
	db := dry(t)
	for name, result := range map[string]*gorm.DB{
		"read":   db.Find(&[]classRow{}),
		"count":  db.Model(&classRow{}).Count(new(int64)),
		"add":    db.Create(&classRow{Name: "7 Alder"}),
		"change": db.Model(&classRow{}).Where("id = 1").Update("name", "x"),
		"remove": db.Where("id = 1").Delete(&classRow{}),
	} {
		assert.ErrorIs(t, result.Error, errNoSchool, name)
	}
}

func TestEveryStatementNamesTheSchool(t *testing.T) {
	db := dry(t).Set(tenantKey, int64(7)).Session(&gorm.Session{})
	read := db.Where("name = ? OR true", "x").Find(&[]classRow{})
	assert.Contains(t, read.Statement.SQL.String(), "`school_id` = ?")
	assert.Contains(t, read.Statement.Vars, int64(7))
	change := db.Model(&classRow{}).Where("id = 1 OR true").Update("name", "x")
	assert.Contains(t, change.Statement.SQL.String(), "(id = 1 OR true) AND")
	row := classRow{Name: "7 Alder", SchoolID: 9}
	assert.NoError(t, db.Create(&row).Error)
	assert.EqualValues(t, 7, row.SchoolID, "whatever the caller said")
}
