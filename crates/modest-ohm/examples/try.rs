//! x
use modest_ohm::*;
fn main(){
 let t=std::fs::read_to_string(std::env::args().nth(1).unwrap()).unwrap();
 let p=match Plan::from_toml(&t){Ok(p)=>p,Err(e)=>{println!("{e}");return}};
 let t0=std::time::Instant::now();
 let r=p.review();
 println!("{:?}",t0.elapsed());
 for f in r.findings(){println!("{} {} {}: {} | {:?} also {:?} [{:?} {:?}]",f.severity.word(),f.code,f.subject,f.message,f.cures,f.also,f.scenario,f.corner)}
 let s=Select::default();
 for n in r.nodes(&s){println!("{} {:?} {:?} {:?}",n.scenario,n.surging,n.corner,n.row)}
 for n in r.strips(&s){println!("{} {:?} low {} at {} high {} I {} feeds {:?}",n.scenario,n.corner,n.row.lowest,n.row.lowest_at,n.row.highest,n.row.current,n.row.feeds.iter().map(|f|f.feed.get()).collect::<Vec<_>>())}
 for c in [Corner::Low,Corner::Typical,Corner::Hot]{for n in r.strips(&Select{scenario:Some("worst".into()),corner:Some(c),..Default::default()}){println!("{:?} {}",c,n.row.lowest.get())}}
 for n in r.loads(&s){println!("{} {:?} {} V {} A {}",n.scenario,n.corner,n.row.name,n.row.voltage,n.row.current)}
 for n in r.links(&s){println!("{} {:?} {:?}",n.scenario,n.corner,n.row)}
 for n in r.totals(&s){println!("{} {:?} {:?}",n.scenario,n.corner,n.row)}
 for n in r.feed(&s){println!("{} {:?} {:?}",n.scenario,n.corner,n.row)}
 for p in r.passed(){println!("pass {} {} {}",p.code,p.subject,p.margin)}
}
