/* Workbooks as spreadsheets write them, part by part, after ECMA-376 part 1 (SpreadsheetML) and OpenDocument 1.3 part 3. */

const XML = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n';

/** A workbook of two sheets: a title above the heading, words told once for all cells, days by two formats, gaps, a formula. */
export const OFFICE_OPEN: Readonly<Record<string, string>> = {
  'xl/workbook.xml': `${XML}<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><workbookPr/><sheets><sheet name="Plan" sheetId="1" r:id="rId2"/><sheet name="Trees" sheetId="2" r:id="rId1"/></sheets></workbook>`,
  'xl/_rels/workbook.xml.rels': `${XML}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="t" Target="worksheets/sheet2.xml"/><Relationship Id="rId2" Type="t" Target="/xl/worksheets/sheet1.xml"/></Relationships>`,
  'xl/styles.xml': `${XML}<styleSheet><numFmts count="2"><numFmt numFmtId="164" formatCode="dd\\/mm\\/yyyy"/><numFmt numFmtId="165" formatCode="0.0&quot; days&quot;"/></numFmts><cellStyleXfs><xf numFmtId="14"/></cellStyleXfs><cellXfs><xf numFmtId="0"/><xf numFmtId="14"/><xf numFmtId="164"/><xf numFmtId="165"/></cellXfs></styleSheet>`,
  'xl/sharedStrings.xml': `${XML}<sst><si><t>Tag</t></si><si><t>Species</t></si><si><r><t>sugar </t></r><r><rPr><b/></rPr><t>maple</t></r></si><si><t>Our trees &amp; what they are</t></si><si><t>DBH</t><rPh sb="0" eb="1"><t>x</t></rPh></si><si><t>Date</t></si></sst>`,
  'xl/worksheets/sheet1.xml': `${XML}<worksheet><sheetData/></worksheet>`,
  'xl/worksheets/sheet2.xml': `${XML}<worksheet><sheetData>
    <row r="1"><c r="A1" t="s"><v>3</v></c></row>
    <row r="3"><c r="A3" t="s"><v>0</v></c><c r="B3" t="s"><v>1</v></c><c r="D3" t="s"><v>4</v></c><c r="E3" t="s"><v>5</v></c></row>
    <row r="4"><c r="A4"><v>1</v></c><c r="B4" t="s"><v>2</v></c><c r="D4"><v>36.300000000000004</v></c><c r="E4" s="1"><v>45444</v></c></row>
    <row r="5"><c r="A5" t="inlineStr"><is><t>A-2</t></is></c><c r="B5" t="str"><f>B4</f><v>red maple</v></c><c r="D5" s="3"><v>41.5</v></c><c r="E5" s="2"><v>45445.5</v></c></row>
  </sheetData></worksheet>`
};

/** The same table as an open document writes it: cells and rows that repeat to the end of the sheet. */
export const OPEN_DOCUMENT: Readonly<Record<string, string>> = {
  'content.xml': `${XML}<office:document-content><office:body><office:spreadsheet><table:table table:name="Trees">
    <table:table-row><table:table-cell office:value-type="string"><text:p>Our trees &amp; what they are</text:p></table:table-cell><table:table-cell table:number-columns-repeated="16383"/></table:table-row>
    <table:table-row table:number-rows-repeated="1"><table:table-cell table:number-columns-repeated="16384"/></table:table-row>
    <table:table-row><table:table-cell office:value-type="string"><text:p>Tag</text:p></table:table-cell><table:table-cell office:value-type="string"><text:p>Species</text:p></table:table-cell><table:table-cell/><table:table-cell office:value-type="string"><text:p>DBH</text:p></table:table-cell><table:table-cell office:value-type="string"><text:p>Date</text:p></table:table-cell></table:table-row>
    <table:table-row><table:table-cell office:value-type="float" office:value="1"><text:p>1</text:p></table:table-cell><table:table-cell office:value-type="string"><text:p>sugar<text:s/><text:span text:style-name="T1">maple</text:span></text:p></table:table-cell><table:table-cell/><table:table-cell office:value-type="float" office:value="36.3"><text:p>36,30</text:p></table:table-cell><table:table-cell office:value-type="date" office:date-value="2024-06-01"><text:p>01.06.24</text:p></table:table-cell></table:table-row>
    <table:table-row><table:table-cell office:value-type="string"><text:p>A-2</text:p></table:table-cell><table:table-cell office:value-type="string"><text:p>red maple</text:p></table:table-cell><table:table-cell/><table:table-cell office:value-type="float" office:value="41.5"><text:p>41,5</text:p></table:table-cell><table:table-cell office:value-type="date" office:date-value="2024-06-02T12:00:00"><text:p>02.06.24</text:p></table:table-cell></table:table-row>
    <table:table-row table:number-rows-repeated="1048570"><table:table-cell table:number-columns-repeated="16384"/></table:table-row>
  </table:table></office:spreadsheet></office:body></office:document-content>`
};
