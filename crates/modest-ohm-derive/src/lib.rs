//! `#[derive(Figures)]`: shows every figure of a record to a visitor, with the keys of the plan that lead to it.
//!
//! There is no list of figures beside the records: a field that is added is visited, or does not compile until its type
//! says what it holds. A field's key is its name with hyphens, unless an attribute says otherwise:
//!
//! - `#[figures(key = "until")]`: the plan spells it differently;
//! - `#[figures(flat)]`: what is in it is written beside it, without a key of its own;
//! - `#[figures(range)]`: a range in which something works, not the spread of one value;
//! - `#[figures(state)]`: a range that its part goes through, as a battery's voltage with its charge;
//! - `#[figures(skip)]`: a copy of what is visited elsewhere.
//!
//! The variants of an enum are flat: the key stands at the field that holds the enum.

#![forbid(unsafe_code)]

use proc_macro::TokenStream;
use proc_macro2::TokenStream as Tokens;
use quote::{format_ident, quote};
use syn::{Attribute, Data, DeriveInput, Field, Fields, LitStr, parse_macro_input};

/// What the attribute of a field says.
#[derive(Default)]
struct Said {
    key: Option<String>,
    flat: bool,
    range: bool,
    state: bool,
    skip: bool,
}

fn said(attributes: &[Attribute]) -> syn::Result<Said> {
    let mut said = Said::default();
    for attribute in attributes.iter().filter(|a| a.path().is_ident("figures")) {
        attribute.parse_nested_meta(|meta| {
            if meta.path.is_ident("key") {
                said.key = Some(meta.value()?.parse::<LitStr>()?.value());
            } else if meta.path.is_ident("flat") {
                said.flat = true;
            } else if meta.path.is_ident("range") {
                said.range = true;
            } else if meta.path.is_ident("state") {
                said.state = true;
            } else if meta.path.is_ident("skip") {
                said.skip = true;
            } else {
                return Err(meta.error("expected `key`, `flat`, `range`, `state` or `skip`"));
            }
            Ok(())
        })?;
    }
    Ok(said)
}

/// The visit of one field that is bound to `name`.
fn visit(field: &Field, name: &syn::Ident, always_flat: bool) -> syn::Result<Tokens> {
    let said = said(&field.attrs)?;
    if said.skip {
        return Ok(quote!(let _ = #name;));
    }
    let own = field.ident.as_ref().map(|i| i.to_string().trim_start_matches("r#").replace('_', "-"));
    let at = match said.key.or(own.filter(|_| !said.flat && !always_flat)) {
        Some(key) => quote!(at.under(#key)),
        None => quote!(at),
    };
    let at = match (said.range, said.state) {
        (true, _) => quote!(#at.as_range()),
        (_, true) => quote!(#at.as_state()),
        _ => at,
    };
    Ok(quote!(crate::quantity::figures::Figures::each(#name, #at, see);))
}

fn visits(fields: &Fields, always_flat: bool) -> syn::Result<(Tokens, Tokens)> {
    let names: Vec<_> = (0..fields.len()).map(|i| format_ident!("field_{i}")).collect();
    let bodies = fields.iter().zip(&names).map(|(f, n)| visit(f, n, always_flat)).collect::<syn::Result<Vec<_>>>()?;
    let pattern = match fields {
        Fields::Named(named) => {
            let keys = named.named.iter().map(|f| &f.ident);
            quote!({ #(#keys: #names),* })
        }
        Fields::Unnamed(_) => quote!(( #(#names),* )),
        Fields::Unit => quote!(),
    };
    Ok((pattern, quote!(#(#bodies)*)))
}

fn expand(input: &DeriveInput) -> syn::Result<Tokens> {
    let name = &input.ident;
    let arms = match &input.data {
        Data::Struct(data) => {
            let (pattern, body) = visits(&data.fields, false)?;
            quote!(Self #pattern => { #body })
        }
        Data::Enum(data) => {
            let arms = data.variants.iter().map(|variant| {
                let ident = &variant.ident;
                let (pattern, body) = visits(&variant.fields, false)?;
                Ok(quote!(Self::#ident #pattern => { #body }))
            });
            let arms = arms.collect::<syn::Result<Vec<_>>>()?;
            quote!(#(#arms)*)
        }
        Data::Union(_) => return Err(syn::Error::new_spanned(name, "a union holds no figures")),
    };
    let (generics, types, clause) = input.generics.split_for_impl();
    Ok(quote! {
        impl #generics crate::quantity::figures::Figures for #name #types #clause {
            #[allow(unused_variables)]
            fn each(&mut self, at: crate::quantity::figures::At<'_>, see: crate::quantity::figures::See<'_>) {
                match self { #arms }
            }
        }
    })
}

/// Derives the visitor; see the crate's documentation.
#[proc_macro_derive(Figures, attributes(figures))]
pub fn figures(input: TokenStream) -> TokenStream {
    let input = parse_macro_input!(input as DeriveInput);
    expand(&input).unwrap_or_else(|e| e.to_compile_error()).into()
}
