using System.Text;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Values;

namespace Jexa.Core.Tests;

public class FormatTests
{
    [Theory]
    [InlineData("name", "Name")]
    [InlineData("opened_on", "Opened on")]
    [InlineData("length_m", "Length (m)")]
    [InlineData("area_km2", "Area (km²)")]
    [InlineData("bridge_id", "Bridge ID")]
    [InlineData("bridgeId", "Bridge ID")]
    [InlineData("photoURL", "Photo URL")]
    [InlineData("HTMLText", "Html text")]
    [InlineData("m", "M")]
    [InlineData("_", "_")]
    public void A_label_is_made_from_a_fields_name(string name, string label) => Assert.Equal(label, Labels.OfField(name));

    [Theory]
    [InlineData("length_m", "Length")]
    [InlineData("opened_on", "Opened on")]
    [InlineData("m", "M")]
    public void A_unit_that_stands_behind_each_value_is_not_in_the_label(string name, string label) =>
        Assert.Equal(label, Labels.WithoutUnit(name));

    [Theory]
    [InlineData("district_id", "District")]
    [InlineData("district", "District")]
    [InlineData("districtKey", "District")]
    public void A_foreign_key_is_labelled_by_what_it_leads_to(string name, string label) =>
        Assert.Equal(label, Labels.OfReference(name));

    [Theory]
    [InlineData("bridge", "bridges")]
    [InlineData("city", "cities")]
    [InlineData("key", "keys")]
    [InlineData("bus", "buses")]
    [InlineData("branch", "branches")]
    public void A_plural_is_made_the_usual_way(string one, string many) => Assert.Equal(many, Labels.Plural(one));

    [Theory]
    [InlineData(1987, "1987")]
    [InlineData(9999, "9999")]
    [InlineData(10000, "10,000")]
    [InlineData(-1234567, "-1,234,567")]
    public void Whole_numbers_are_grouped_from_five_digits_so_that_years_stay_years(long value, string text) =>
        Assert.Equal(text, Written(rows => rows.AddNumber(CellKind.Integer, value), FieldType.Integer));

    [Fact]
    public void Each_kind_of_value_is_written_for_people()
    {
        Assert.Equal("Yes", Written(rows => rows.AddNumber(CellKind.Boolean, 1), FieldType.Boolean));
        Assert.Equal("No", Written(rows => rows.AddNumber(CellKind.Boolean, 0), FieldType.Boolean));
        Assert.Equal(
            "29 February 2024",
            Written(rows => rows.AddNumber(CellKind.Date, new DateOnly(2024, 2, 29).DayNumber), FieldType.Date)
        );
        Assert.Equal(
            "1 May 2024, 09:05",
            Written(rows => rows.AddNumber(CellKind.Timestamp, new DateTime(2024, 5, 1, 9, 5, 0).Ticks), FieldType.Timestamp)
        );
        Assert.Equal("12.5", Written(rows => rows.AddReal(12.5), FieldType.Real));
        Assert.Equal("1.10", Written(rows => rows.AddRun(CellKind.Decimal, "1.10"u8), FieldType.Decimal));
        Assert.Equal("3 bytes", Written(rows => rows.AddRun(CellKind.Bytes, [1, 2, 3]), FieldType.Bytes));
        Assert.Equal("løkke", Written(rows => rows.AddRun(CellKind.Text, "løkke"u8), FieldType.Text));
        Assert.Equal("a\uFFFD", Written(rows => rows.AddRun(CellKind.Text, [(byte)'a', 0xff]), FieldType.Text));
        Assert.Equal("", Written(rows => rows.AddNull(), FieldType.Text));
    }

    [Theory]
    [InlineData("2024-02-29", true)]
    [InlineData("2023-02-29", false)]
    [InlineData("2024-2-29", false)]
    [InlineData("0000-01-01", false)]
    [InlineData("2024-13-01", false)]
    [InlineData("2024-02-29 ", false)]
    [InlineData("+024-02-29", false)]
    public void A_date_is_read_whole_or_not_at_all(string text, bool isDate) =>
        Assert.Equal(isDate, TypedText.TryDate(Encoding.UTF8.GetBytes(text), out _));

    [Theory]
    [InlineData("2024-02-29", true)]
    [InlineData("2024-02-29T12:30", true)]
    [InlineData("2024-02-29 12:30:15.123", true)]
    [InlineData("2024-02-29 25:00", false)]
    [InlineData("2024-02-29 12:30:15Z", false)]
    [InlineData("2024-02-29 12:30:15.12345678901234567", false)]
    public void A_timestamp_is_read_whole_or_not_at_all(string text, bool isTimestamp) =>
        Assert.Equal(isTimestamp, TypedText.TryTimestamp(Encoding.UTF8.GetBytes(text), out _));

    [Theory]
    [InlineData("1.10", true)]
    [InlineData("-12", true)]
    [InlineData("1e3", false)]
    [InlineData(".5", false)]
    [InlineData("5.", false)]
    [InlineData("", false)]
    public void A_decimal_is_digits_and_one_point(string text, bool isDecimal) =>
        Assert.Equal(isDecimal, TypedText.IsDecimal(Encoding.UTF8.GetBytes(text)));

    [Theory]
    [InlineData("brigde", "bridge")]
    [InlineData("Bridge", "bridge")]
    [InlineData("bridg", "bridge")]
    [InlineData("xyz", null)]
    public void The_nearest_word_is_the_one_that_was_probably_meant(string word, string? nearest) =>
        Assert.Equal(nearest, Nearest.To(word, ["bridge", "district", "span"]));

    [Fact]
    public void Rows_cut_for_a_trace_keep_their_numbers_and_the_beginnings_of_their_texts()
    {
        var rows = new RowBlock();
        rows.Reset(2);
        for (var i = 0; i < 5; i++)
        {
            rows.BeginRow();
            rows.AddNumber(CellKind.Integer, i);
            rows.AddRun(CellKind.Text, Encoding.UTF8.GetBytes(new string((char)('a' + i), 500)));
        }

        // The block that is copied to may have been used before, for more.
        var copy = new RowBlock();
        rows.CopyCut(0, 5, 500, copy, []);
        rows.CopyCut(0, 2, 10, copy, []);
        rows.Reset(2);
        Assert.Equal(2, copy.Count);
        Assert.Equal(1, copy[1][0].Integer);
        Assert.Equal("bbbbbbbbbb", copy[1].Text(1));
    }

    private static string Written(Action<RowBlock> add, FieldType type)
    {
        var rows = new RowBlock();
        rows.Reset(1);
        rows.BeginRow();
        add(rows);
        using var text = new Utf8Buffer();
        ValueFormat.Write(rows[0], 0, type, ValueStyle.Plain, text);
        return text.ToString();
    }
}
